<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Database\Eloquent\Relations\HasOne;
use Illuminate\Database\Eloquent\SoftDeletes;

/**
 * Documents gathered for retrieval.
 *
 * @property int $id
 * @property int $user_id
 * @property string $name
 * @property string $note
 * @property KeptSearch|null $search the search it goes on adding from
 * @property \Illuminate\Support\Carbon|null $frozen_at
 * @property int $lock_version
 * @property \Illuminate\Support\Carbon $updated_at
 * @property-read User $owner
 * @property-read Hold|null $hold the one that covers its documents now
 * @property-read \Illuminate\Database\Eloquent\Collection<int, User> $people
 */
final class PullList extends Model
{
    use SoftDeletes;

    protected $table = 'pull_lists';

    protected $guarded = [];

    protected $attributes = ['note' => '', 'lock_version' => 1];

    protected $casts = ['search' => AsKeptSearch::class, 'frozen_at' => 'datetime'];

    /** @return Builder<self> those that a person made, and those that were shared with them */
    public static function knownTo(User $user): Builder
    {
        return self::query()->where(
            static fn (Builder $any) => $any
                ->where('user_id', $user->id)
                ->orWhereHas('people', static fn (Builder $q) => $q->whereKey($user->id)),
        );
    }

    /** @return BelongsTo<User, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(User::class, 'user_id');
    }

    /** @return HasOne<Hold, $this> */
    public function hold(): HasOne
    {
        return $this->hasOne(Hold::class)->whereNull('ended_at');
    }

    /** @return BelongsToMany<User, $this> */
    public function people(): BelongsToMany
    {
        return $this->belongsToMany(User::class)->withPivot('may_change')->orderBy('name');
    }
}
