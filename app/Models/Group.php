<?php

declare(strict_types=1);

namespace App\Models;

use App\Support\Column;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;

/**
 * People who may see and do the same.
 *
 * @property int $id
 * @property string $name
 * @property-read \Illuminate\Database\Eloquent\Collection<int, User> $users
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Group> $members
 */
final class Group extends Model
{
    protected $table = 'groups';

    public $timestamps = false;

    protected $guarded = [];

    /** @return BelongsToMany<User, $this> */
    public function users(): BelongsToMany
    {
        return $this->belongsToMany(User::class);
    }

    /** @return BelongsToMany<self, $this> the groups that are in it */
    public function members(): BelongsToMany
    {
        return $this->belongsToMany(self::class, 'group_group', 'group_id', 'member_id');
    }

    /** @return BelongsToMany<User, $this> those in it by whatever way, to be read only */
    public function everybody(): BelongsToMany
    {
        return $this->belongsToMany(User::class, 'memberships');
    }

    /** @return list<string> the groups with somebody in them who designs */
    public static function designing(): array
    {
        $roles = app(Roles::class)->with(Right::Design);

        return Column::texts(
            self::query()
                ->whereHas('everybody', static fn ($users) => $users->whereIn('role', $roles))
                ->orderBy('name')
                ->pluck('name'),
        );
    }
}
