<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;

/**
 * People who may see and do the same.
 *
 * @property int $id
 * @property string $name
 */
final class Group extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /** @return BelongsToMany<Library, $this> */
    public function libraries(): BelongsToMany
    {
        return $this->belongsToMany(Library::class)->withPivot('may_change');
    }
}
