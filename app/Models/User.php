<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/**
 * @property int $id
 * @property string $name
 * @property string $sign_in
 * @property Role $role
 * @property array<string, mixed>|null $preferences
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Group> $groups
 */
final class User extends Authenticatable
{
    protected $guarded = [];

    protected $hidden = ['password', 'remember_token'];

    protected $casts = ['role' => Role::class, 'password' => 'hashed', 'preferences' => 'array'];

    /** @var array<int, bool>|null library id => may change */
    private ?array $libraries = null;

    /** @var list<string>|null */
    private ?array $groupNames = null;

    /** Who asks, where the route has made sure that somebody is signed in. */
    public static function of(Request $request): self
    {
        /** @var self */
        return $request->user();
    }

    /** @return BelongsToMany<Group, $this> */
    public function groups(): BelongsToMany
    {
        return $this->belongsToMany(Group::class);
    }

    /** @return list<string> */
    public function groupNames(): array
    {
        return $this->groupNames ??= DB::table('groups')->join('group_user', 'group_user.group_id', '=', 'groups.id')->where('user_id', $this->id)->orderBy('name')->pluck('name')->all();
    }

    /** @return Builder<self> those who share a group with this person */
    public function colleagues(): Builder
    {
        return self::query()->whereKeyNot($this->id)->whereHas('groups', fn (Builder $groups) => $groups->whereIn('name', $this->groupNames()));
    }

    /** @return array<int, bool> the libraries this person may see: id => whether they may change what is in it */
    public function libraryRights(): array
    {
        if ($this->libraries === null) {
            $this->libraries = [];
            $rows = DB::table('group_library')
                ->join('group_user', 'group_user.group_id', '=', 'group_library.group_id')
                ->where('group_user.user_id', $this->id)
                ->get(['library_id', 'may_change']);
            foreach ($rows as $row) {
                $this->libraries[(int) $row->library_id] = ($this->libraries[(int) $row->library_id] ?? false) || (bool) $row->may_change;
            }
        }

        return $this->libraries;
    }
}
