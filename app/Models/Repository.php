<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A ring-fenced store of documents with its own libraries.
 *
 * @property int $id
 * @property string $code
 * @property string $name
 * @property int $position
 * @property int $lock_version
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Library> $libraries
 */
final class Repository extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /** @return HasMany<Library, $this> */
    public function libraries(): HasMany
    {
        return $this->hasMany(Library::class)->orderBy('position')->orderBy('name');
    }
}
