<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;

/**
 * What a document is: decides its index fields.
 *
 * @property int $id
 * @property string $code
 * @property string $name
 * @property string $title_pattern
 * @property int $lock_version
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Field> $fields
 */
final class DocumentType extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /** @return BelongsToMany<Field, $this> */
    public function fields(): BelongsToMany
    {
        return $this->belongsToMany(Field::class, 'document_type_field')->withPivot('position', 'required')->orderByPivot('position');
    }

    /** @return BelongsToMany<Library, $this> */
    public function libraries(): BelongsToMany
    {
        return $this->belongsToMany(Library::class);
    }
}
