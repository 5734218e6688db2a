<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Support\Facades\DB;

/** The roles of the office. */
final class Roles
{
    /** @var array<string, Role>|null by code */
    private ?array $all = null;

    /** @return array<string, Role> by code */
    public function all(): array
    {
        if ($this->all === null) {
            $this->all = [];
            foreach (DB::table('roles')->orderBy('place')->orderBy('name')->get(['code', 'name', 'rights']) as $row) {
                $rights = array_map(Right::tryFrom(...), (array) json_decode((string) $row->rights, true));
                $this->all[(string) $row->code] = new Role((string) $row->code, (string) $row->name, array_values(array_filter($rights)));
            }
        }

        return $this->all;
    }

    /** A role that is no more gives no right. */
    public function of(string $code): Role
    {
        return $this->all()[$code] ?? new Role($code, $code, []);
    }

    /** @return list<string> codes of the roles that have a right */
    public function with(Right $right): array
    {
        return array_keys(array_filter($this->all(), static fn (Role $role): bool => $role->has($right)));
    }

    /** Knows none of them from before. */
    public function forget(): void
    {
        $this->all = null;
    }
}
