<?php

declare(strict_types=1);

namespace App\People;

use App\Design\Draft;
use App\History\Act;
use App\History\History;
use App\Models\Right;
use App\Models\Role;
use App\Models\Roles;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Makes roles of the office, changes them and takes them away. */
final readonly class RoleChanges
{
    public function __construct(private Roles $roles, private Draft $draft)
    {
    }

    /** @param  list<Right>  $rights */
    public function add(?User $by, string $name, array $rights): Role
    {
        return $this->changed(function () use ($by, $name, $rights): Role {
            $stem = trim((string) preg_replace('/[^a-z0-9]+/', '_', strtolower(Str::ascii($name))), '_') ?: 'role';
            for ($code = $stem, $n = 2; isset($this->roles->all()[$code]); $n++) {
                $code = "{$stem}_{$n}";
            }
            $this->guardName($code, $name);
            DB::table('roles')->insert(['code' => $code, 'name' => $name, 'rights' => self::packed($rights), 'place' => 100]);
            History::record(Act::RoleAdded, $by, null, ['role' => $name, 'rights' => array_column($rights, 'value')]);
            $this->roles->forget();

            return $this->roles->of($code);
        });
    }

    /**
     * @param  list<Right>  $rights
     *
     * @throws Refused when nobody would be left to administer, or to design something
     */
    public function change(?User $by, string $code, string $name, array $rights): void
    {
        $this->changed(function () use ($by, $code, $name, $rights): void {
            $was = $this->existing($code);
            $this->guardName($code, $name);
            DB::table('roles')->where('code', $code)->update(['name' => $name, 'rights' => self::packed($rights)]);
            $this->roles->forget();
            $this->guardOffice();
            $is = $this->roles->of($code);
            $changes = array_filter([
                'name' => $was->name === $is->name ? null : ['was' => $was->name, 'is' => $is->name],
                'rights' => $was->rights === $is->rights ? null : ['was' => $was->toArray()['rights'], 'is' => $is->toArray()['rights']],
            ]);
            $changes === [] || History::record(Act::RoleChanged, $by, null, ['role' => $is->name, ...$changes]);
        });
    }

    /** @throws Refused while somebody has it */
    public function remove(?User $by, string $code): void
    {
        $this->changed(function () use ($by, $code): void {
            $role = $this->existing($code);
            $people = User::query()->where('role', $code)->orderBy('name')->limit(4)->pluck('name');
            if ($people->isNotEmpty()) {
                $named = $people->take(3)->implode(', ').($people->count() > 3 ? ' and others' : '');
                throw new Refused("{$named} have this role. Give them another one first.");
            }
            DB::table('roles')->where('code', $code)->delete();
            $this->roles->forget();
            History::record(Act::RoleRemoved, $by, null, ['role' => $role->name]);
        });
    }

    /**
     * Somebody in use must be there to administer, once there was.
     *
     * @throws Refused
     */
    public function guardOffice(): void
    {
        if (! $this->isAdministered()) {
            throw new Refused('This would leave nobody who may administer. Give somebody else this right first.');
        }
        $this->draft->guardDesigners();
    }

    public function isAdministered(): bool
    {
        return User::query()->whereIn('role', $this->roles->with(Right::Administer))->whereNull('out_of_use_at')->exists();
    }

    /**
     * Changes roles, and knows none from before: neither while it does, nor when it was not done.
     *
     * @template T
     *
     * @param  callable(): T  $act
     * @return T
     */
    private function changed(callable $act): mixed
    {
        $this->roles->forget();
        try {
            return DB::transaction($act(...));
        } finally {
            $this->roles->forget();
        }
    }

    /** @throws Refused */
    private function existing(string $code): Role
    {
        return $this->roles->all()[$code] ?? throw new Refused('There is no such role any more.');
    }

    /** @throws Refused */
    private function guardName(string $code, string $name): void
    {
        foreach ($this->roles->all() as $other) {
            if ($other->code !== $code && mb_strtolower($other->name) === mb_strtolower($name)) {
                throw new Refused("There is a role called “{$other->name}”.");
            }
        }
    }

    /** @param  list<Right>  $rights */
    private static function packed(array $rights): string
    {
        $chosen = array_filter(Right::cases(), static fn (Right $right): bool => in_array($right, $rights, true));

        return (string) json_encode(array_column($chosen, 'value'));
    }
}
