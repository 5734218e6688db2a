<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A grouping of similar documents inside a repository. Its types, view and groups stand in the design.
 *
 * @property int $id
 * @property int $repository_id
 * @property string $code
 * @property string $name
 * @property string $note
 * @property int $position
 * @property-read Repository $repository
 */
final class Library extends Model
{
    protected $table = 'libraries';

    public $timestamps = false;

    protected $guarded = [];

    /** @return BelongsTo<Repository, $this> */
    public function repository(): BelongsTo
    {
        return $this->belongsTo(Repository::class);
    }

    /** @return list<array{code: string, name: string}> those that a person may enter, by name */
    public static function told(User $user): array
    {
        return array_values(
            self::query()
                ->whereIntegerInRaw('id', array_keys($user->libraryRights()))
                ->orderBy('name')
                ->get()
                ->map(static fn (self $of): array => ['code' => $of->code, 'name' => $of->name])
                ->all(),
        );
    }
}
