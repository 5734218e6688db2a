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

    /** @return list<string> the groups with somebody in them who designs */
    public static function designing(): array
    {
        $roles = array_filter(Role::cases(), static fn (Role $role): bool => $role->mayDesign());

        return Column::texts(
            self::query()
                ->whereHas('users', static fn ($users) => $users->whereIn('role', $roles))
                ->orderBy('name')
                ->pluck('name'),
        );
    }
}
