<?php

declare(strict_types=1);

namespace App\Models;

use App\Support\Column;
use Brenvic\Core\Fields\DateForm;
use Brenvic\Core\Fields\NumberForm;
use Brenvic\Core\Fields\WrittenForm;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/**
 * @property int $id
 * @property string $name
 * @property string|null $mail the address that codes are mailed to
 * @property string $sign_in
 * @property Role $role set by its code
 * @property array<string, mixed>|null $preferences
 * @property \Illuminate\Support\Carbon|null $out_of_use_at
 * @property \Illuminate\Support\Carbon|null $last_sign_in_at
 * @property string|null $code_hash of the one-time code with which a password is chosen
 * @property \Illuminate\Support\Carbon|null $code_expires_at
 * @property string|null $factor_secret of the second factor, encrypted
 * @property int $factor_step of the last code that was taken
 * @property string|null $recovery_hashes
 * @property string $known_by `brenvic`, or `directory` where that holds the password
 * @property int|null $manager_id
 * @property int|null $stand_in_id who acts for them while they are away
 * @property string|null $away_from a day
 * @property string|null $away_until a day
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Group> $groups
 */
final class User extends Authenticatable
{
    protected $table = 'users';

    protected $guarded = [];

    protected $hidden = ['password', 'remember_token', 'code_hash', 'factor_secret', 'recovery_hashes'];

    protected $casts = [
        'role' => AsRole::class,
        'password' => 'hashed',
        'preferences' => 'array',
        'out_of_use_at' => 'datetime',
        'last_sign_in_at' => 'datetime',
        'code_expires_at' => 'datetime',
    ];

    /** @var array<int, bool>|null library id => may change */
    private ?array $libraries = null;

    /** @var list<string>|null */
    private ?array $groupNames = null;

    /** @var list<Right>|null */
    private ?array $limits = null;

    /** @var list<string>|null codes */
    private ?array $onlyLibraries = null;

    /** Who asks, where the route has made sure that somebody is signed in. */
    public static function of(Request $request): self
    {
        /** @var self */
        return $request->user();
    }

    /**
     * Those in use who are in one of some groups, by whatever way, or are named.
     *
     * @param  list<string>  $groups  names
     * @param  list<int>  $people
     * @return Builder<self>
     */
    public static function among(array $groups, array $people = []): Builder
    {
        return self::query()
            ->whereNull('out_of_use_at')
            ->where(
                static fn (Builder $q) => $q
                    ->whereIntegerInRaw('id', $people)
                    ->orWhereHas('memberships', static fn (Builder $of) => $of->whereIn('name', $groups)),
            )
            ->orderBy('id');
    }

    /** Whether they answer for documents in any way that the place Oversight is for. */
    public function looksOver(): bool
    {
        return $this->may(Right::Oversee) || $this->may(Right::Hold) || $this->may(Right::Remove) || $this->may(Right::Destroy);
    }

    public function may(Right $right): bool
    {
        return $this->role->has($right) && ($this->limits === null || in_array($right, $this->limits, true));
    }

    /**
     * The same person with no more than some rights, as for a token.
     *
     * @param  list<Right>  $rights
     * @param  list<string>|null  $libraries  codes of those that they may enter at most; null for all
     */
    public function limitedTo(array $rights, ?array $libraries = null): self
    {
        $this->limits = $rights;
        $this->onlyLibraries = $libraries;

        return $this;
    }

    /**
     * Anybody outside, who sees what a group sees and has no other right than to find and read.
     *
     * @param  string  $role  code of one with this right
     */
    public static function visitor(Group $group, string $role): self
    {
        $user = new self(['name' => 'Anybody', 'sign_in' => '', 'role' => $role]);
        $user->id = 0;
        $user->groupNames = [$group->name, ...$group->around()];
        $user->limits = [Right::Read];
        $user->libraries = array_fill_keys(
            Column::numbers(
                DB::table('group_library')
                    ->join('groups', 'groups.id', '=', 'group_id')
                    ->whereIn('name', $user->groupNames)
                    ->distinct()
                    ->pluck('library_id'),
            ),
            false,
        );

        return $user;
    }

    /** @return BelongsToMany<Group, $this> those that they were put into */
    public function groups(): BelongsToMany
    {
        return $this->belongsToMany(Group::class);
    }

    /** @return BelongsToMany<Group, $this> those that they are in by whatever way, to be read only */
    public function memberships(): BelongsToMany
    {
        return $this->belongsToMany(Group::class, 'memberships');
    }

    /** @return list<string> those that they are in by whatever way */
    public function groupNames(): array
    {
        return $this->groupNames ??= Column::texts(
            DB::table('groups')
                ->join('memberships', 'memberships.group_id', '=', 'groups.id')
                ->where('user_id', $this->id)
                ->orderBy('name')
                ->pluck('name'),
        );
    }

    /** @return list<string> sign-in names of those in use who share a group with this person */
    public function colleagues(): array
    {
        return Column::texts(
            DB::table('users')
                ->where('id', '!=', $this->id)
                ->whereNull('out_of_use_at')
                ->whereIn(
                    'id',
                    DB::table('memberships')
                        ->whereIn('group_id', DB::table('memberships')->where('user_id', $this->id)->select('group_id'))
                        ->select('user_id'),
                )
                ->pluck('sign_in'),
        );
    }

    /** @return array<int, bool> the libraries this person may see: id => whether they may change what is in it */
    public function libraryRights(): array
    {
        if ($this->libraries === null) {
            $this->libraries = [];
            $rows = $this->may(Right::Read)
                ? DB::table('group_library')
                    ->join('memberships', 'memberships.group_id', '=', 'group_library.group_id')
                    ->join('libraries', 'libraries.id', '=', 'group_library.library_id')
                    ->where('memberships.user_id', $this->id)
                    ->when($this->onlyLibraries !== null, fn ($of) => $of->whereIn('libraries.code', (array) $this->onlyLibraries))
                    ->get(['library_id', 'may_change'])
                : [];
            foreach ($rows as $row) {
                $this->libraries[(int) $row->library_id] = ($this->libraries[(int) $row->library_id] ?? false) || (bool) $row->may_change;
            }
        }

        return $this->libraries;
    }

    /** How they have dates and numbers written. */
    public function writtenForm(): WrittenForm
    {
        $chosen = Column::texts([$this->preferences['dates'] ?? '', $this->preferences['numbers'] ?? '']);

        return new WrittenForm(DateForm::tryFrom($chosen[0]) ?? DateForm::Words, NumberForm::tryFrom($chosen[1]) ?? NumberForm::Point);
    }
}
