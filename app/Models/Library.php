<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;

/**
 * A grouping of similar documents inside a repository.
 *
 * @property int $id
 * @property int $repository_id
 * @property string $code
 * @property string $name
 * @property string $note
 * @property int $position
 * @property int $lock_version
 * @property-read Repository $repository
 * @property-read \Illuminate\Database\Eloquent\Collection<int, DocumentType> $types
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Group> $groups
 */
final class Library extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /** @return BelongsTo<Repository, $this> */
    public function repository(): BelongsTo
    {
        return $this->belongsTo(Repository::class);
    }

    /** @return BelongsToMany<DocumentType, $this> */
    public function types(): BelongsToMany
    {
        return $this->belongsToMany(DocumentType::class)->orderBy('name');
    }

    /** @return BelongsToMany<Group, $this> */
    public function groups(): BelongsToMany
    {
        return $this->belongsToMany(Group::class)->withPivot('may_change');
    }
}
