<?php

declare(strict_types=1);

namespace App\Models;

use App\Support\Column;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Support\Facades\DB;

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

    /** @return list<string> names of the groups that it is in, by whatever way */
    public function around(): array
    {
        return Column::texts(
            DB::query()
                ->fromRaw(
                    '(WITH RECURSIVE around(id) AS (SELECT group_id FROM group_group WHERE member_id = ? UNION '.
                        'SELECT group_group.group_id FROM group_group JOIN around ON group_group.member_id = around.id) SELECT id FROM around) AS found',
                    [$this->id],
                )
                ->join('groups', 'groups.id', '=', 'found.id')
                ->where('groups.id', '!=', $this->id)
                ->orderBy('name')
                ->pluck('name'),
        );
    }

    /** @return list<string> the groups with somebody in them who designs */
    public static function designing(): array
    {
        $roles = app(Roles::class)->with(Right::Design);

        return Column::texts(
            self::query()->whereHas('everybody', static fn ($users) => $users->whereIn('role', $roles))->orderBy('name')->pluck('name'),
        );
    }
}
