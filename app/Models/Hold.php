<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;

/**
 * A legal hold: stops disposal of what it covers, and any change.
 *
 * @property int $id
 * @property string $name
 * @property string $reason
 * @property int $owner_id
 * @property \Illuminate\Support\Carbon $from
 * @property \Illuminate\Support\Carbon|null $until
 * @property int|null $pull_list_id whose documents it covers
 * @property KeptSearch|null $search that goes on covering what it finds
 * @property bool $wants_look whether documents changed since the search was last asked
 * @property \Illuminate\Support\Carbon|null $ended_at
 * @property int|null $ended_by
 * @property string|null $end_reason
 * @property int $lock_version
 * @property \Illuminate\Support\Carbon $created_at
 * @property-read User $owner
 * @property-read User|null $ender
 * @property-read PullList|null $list
 * @property-read \Illuminate\Database\Eloquent\Collection<int, User> $custodians
 */
final class Hold extends Model
{
    /** Why a document is covered. */
    public const CHOSEN = 'chosen';

    public const LISTED = 'list';

    public const FOUND = 'search';

    protected $guarded = [];

    protected $attributes = ['lock_version' => 1, 'wants_look' => false];

    protected $casts = [
        'from' => 'date',
        'until' => 'date',
        'search' => AsKeptSearch::class,
        'wants_look' => 'boolean',
        'ended_at' => 'datetime',
    ];

    /** @return Builder<self> those that hold something today */
    public static function inForce(): Builder
    {
        $today = now()->toDateString();

        return self::query()
            ->whereNull('ended_at')
            ->whereDate('from', '<=', $today)
            ->where(static fn (Builder $q) => $q->whereNull('until')->orWhereDate('until', '>=', $today));
    }

    /** @return Builder<self> those that a person may know of */
    public static function knownTo(User $user): Builder
    {
        if ($user->may(Right::Hold) || $user->may(Right::Oversee)) {
            return self::query();
        }

        return self::query()->where(
            static fn (Builder $q) => $q
                ->where('owner_id', $user->id)
                ->orWhereHas('custodians', static fn (Builder $of) => $of->whereKey($user->id)),
        );
    }

    public function isInForce(): bool
    {
        return $this->ended_at === null && ! $this->from->isFuture() && ($this->until === null || ! $this->until->endOfDay()->isPast());
    }

    /** @return BelongsTo<User, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(User::class, 'owner_id');
    }

    /** @return BelongsTo<User, $this> */
    public function ender(): BelongsTo
    {
        return $this->belongsTo(User::class, 'ended_by');
    }

    /** @return BelongsTo<PullList, $this> */
    public function list(): BelongsTo
    {
        return $this->belongsTo(PullList::class, 'pull_list_id');
    }

    /** @return BelongsToMany<User, $this> */
    public function custodians(): BelongsToMany
    {
        return $this->belongsToMany(User::class, 'hold_custodians')->withPivot(['told_at', 'acknowledged_at'])->orderBy('name');
    }
}
