<?php

declare(strict_types=1);

namespace App\People;

use App\History\Act;
use App\History\History;
use App\Models\Group;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;

/** Groups, with people and other groups in them. Whoever is in a group is in every group that it is in. */
final class Groups
{
    /**
     * Puts a person into just these groups.
     *
     * @param  list<string>  $names
     */
    public static function put(User $person, array $names): void
    {
        $person->groups()->sync(Group::query()->whereIn('name', $names)->pluck('id'));
        self::gather($person);
    }

    /**
     * Puts just these groups into one.
     *
     * @param  list<string>  $names
     *
     * @throws Refused when it would be in itself
     */
    public static function putGroups(?User $by, Group $group, array $names): void
    {
        DB::transaction(static function () use ($by, $group, $names): void {
            $was = self::in($group);
            $members = Group::query()->whereIn('name', $names)->pluck('name', 'id');
            $group->members()->sync($members->keys());
            foreach (self::above() as $id => $above) {
                if (in_array($id, $above, true)) {
                    throw new Refused("“{$group->name}” would be in itself by “".Group::query()->whereKey($members->keys())->value('name').'”.');
                }
            }
            self::gather();
            $is = self::in($group);
            $was === $is || History::record(Act::GroupChanged, $by, null, ['group' => $group->name, 'groups' => ['was' => $was, 'is' => $is]]);
        });
    }

    /** @return list<string> names of the groups that are in one */
    public static function in(Group $group): array
    {
        return Column::texts($group->members()->orderBy('name')->pluck('name'));
    }

    /**
     * By what a person is in a group.
     *
     * @return list<string> names from the group that they were put into up to it; nothing if they are not in it
     */
    public static function way(User $person, string $group): array
    {
        $names = Group::query()->pluck('name', 'id');
        $above = [];
        foreach (DB::table('group_group')->get() as $row) {
            $above[(int) $row->member_id][] = (int) $row->group_id;
        }
        $ways = array_map(static fn (int $id): array => [$id], Column::numbers($person->groups()->orderBy('name')->pluck('groups.id')));
        for ($at = 0; $at < count($ways); $at++) {
            $last = $ways[$at][count($ways[$at]) - 1];
            if ($names[$last] === $group) {
                return array_map(static fn (int $id): string => (string) $names[$id], $ways[$at]);
            }
            foreach (array_diff($above[$last] ?? [], $ways[$at]) as $next) {
                $ways[] = [...$ways[$at], $next];
            }
        }

        return [];
    }

    /**
     * Notes anew who is in which group, by whatever way.
     *
     * @param  User|null  $only  of one person, where only their groups have changed
     */
    public static function gather(?User $only = null): void
    {
        $above = self::above();
        $rows = [];
        $of = static fn (string $table) => DB::table($table)->when($only, static fn ($all) => $all->where('user_id', $only?->id));
        foreach ($of('group_user')->get(['user_id', 'group_id']) as $row) {
            foreach ([(int) $row->group_id, ...$above[(int) $row->group_id] ?? []] as $group) {
                $rows["{$row->user_id}/{$group}"] = ['user_id' => (int) $row->user_id, 'group_id' => $group];
            }
        }
        DB::transaction(static function () use ($of, $rows): void {
            $of('memberships')->delete();
            foreach (array_chunk(array_values($rows), 400) as $some) {
                DB::table('memberships')->insert($some);
            }
        });
    }

    /** @return array<int, list<int>> the groups that each is in, by whatever way */
    private static function above(): array
    {
        $direct = [];
        foreach (DB::table('group_group')->get() as $row) {
            $direct[(int) $row->member_id][] = (int) $row->group_id;
        }
        $above = [];
        foreach (array_keys($direct) as $group) {
            $left = $direct[$group];
            $found = [];
            while (($next = array_pop($left)) !== null) {
                if (! isset($found[$next])) {
                    $found[$next] = true;
                    array_push($left, ...$direct[$next] ?? []);
                }
            }
            $above[$group] = array_keys($found);
        }

        return $above;
    }
}
