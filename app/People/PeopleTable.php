<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Group;
use App\Models\Roles;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Exchange\CsvRow;
use Illuminate\Support\Facades\DB;

/** People as a table of CSV: sign-in name, name, address, role, and groups, separated with semicolons. */
final readonly class PeopleTable
{
    private const COLUMNS = ['sign_in', 'name', 'mail', 'role', 'groups', 'out_of_use'];

    private const MOST = 5_000;

    public function __construct(private People $people, private Roles $roles)
    {
    }

    public function csv(): string
    {
        $rows = [CsvRow::of(self::COLUMNS)];
        foreach (User::query()->with('groups')->orderBy('sign_in')->lazy() as $person) {
            $groups = Column::texts($person->groups->pluck('name')->sort());
            $rows[] = CsvRow::forSpreadsheet([
                $person->sign_in, $person->name, (string) $person->mail, $person->role->code, implode('; ', $groups),
                $person->out_of_use_at === null ? '' : 'yes',
            ]);
        }

        return implode('', $rows);
    }

    /**
     * Takes people in: those who are not there are made, those who are are changed in what the table has a column for. Nobody is put
     * out of use by not being in it.
     *
     * @param  bool  $isTaken  whether it is done, and not only said what would be
     * @return array{added: list<string>, changed: list<string>, same: int, faults: list<string>, codes: array<string, string>}
     */
    public function taken(?User $by, string $csv, bool $isTaken): array
    {
        [$rows, $faults] = $this->read($csv);
        $report = ['added' => [], 'changed' => [], 'same' => 0, 'faults' => $faults, 'codes' => []];
        if ($isTaken && $faults !== []) {
            throw new Refused('Nothing was imported: '.$faults[0]);
        }

        return DB::transaction(function () use ($by, $rows, $isTaken, $report): array {
            foreach ($rows as $row) {
                $person = User::query()->where('sign_in', $row['sign_in'])->first();
                $was = $person === null ? [] : Column::texts($person->groups()->orderBy('name')->pluck('name'));
                $given = new PersonGiven(
                    $row['name'] ?? $person->name ?? $row['sign_in'],
                    $row['role'] ?? $person?->role->code ?? 'reader',
                    $row['groups'] ?? $was,
                    array_key_exists('mail', $row) ? $row['mail'] : $person?->mail,
                    $person->known_by ?? 'brenvic',
                );
                sort($was);
                $is = $given->groups;
                sort($is);
                if ($person === null) {
                    $report['added'][] = $row['sign_in'];
                    if ($isTaken) {
                        $report['codes'][$row['sign_in']] = $this->people->add($by, $row['sign_in'], $given)[1];
                    }
                } elseif ([$person->name, $person->role->code, $person->mail, $was] === [$given->name, $given->role, $given->mail, $is]) {
                    $report['same']++;
                } else {
                    $report['changed'][] = $row['sign_in'];
                    $isTaken && $this->people->change($by, $person, $given);
                }
            }

            return $report;
        });
    }

    /**
     * @return array{list<array{sign_in: string, name?: string, mail?: string|null, role?: string, groups?: list<string>}>, list<string>} rows,
     *     and what is wrong with the table
     */
    private function read(string $csv): array
    {
        if (! mb_check_encoding($csv, 'UTF-8')) {
            return [[], ['The table is not in UTF-8.']];
        }
        $stream = fopen('php://temp', 'r+b') ?: throw new Refused('The table cannot be read.');
        fwrite($stream, (string) preg_replace('/^\x{FEFF}/u', '', $csv));
        rewind($stream);
        $head = array_map(static fn (?string $of): string => strtolower(trim((string) $of)), fgetcsv($stream, escape: '') ?: []);
        $unknown = array_diff($head, self::COLUMNS);
        if (! in_array('sign_in', $head, true) || $unknown !== []) {
            $says = $unknown === [] ? 'There is no column “sign_in”.' : 'There is no use for the column “'.reset($unknown).'”.';

            return [[], ["{$says} Columns are ".implode(', ', self::COLUMNS).'.']];
        }
        $groups = array_flip(Column::texts(Group::query()->pluck('name')));
        $rows = $faults = $seen = [];
        for ($line = 2; ($cells = fgetcsv($stream, escape: '')) !== false && count($faults) < 50; $line++) {
            if ($cells === [null]) {
                continue;
            }
            if (count($cells) !== count($head) || count($rows) >= self::MOST) {
                $faults[] = count($rows) >= self::MOST
                    ? 'At most 5,000 people can be imported at once.'
                    : "Line {$line} has ".count($cells).' cells, and the first line '.count($head).'.';

                continue;
            }
            $plain = static fn (?string $of): string => trim((string) preg_replace("/^'(?=[=+@\t\r-])/", '', (string) $of));
            $cell = array_combine($head, array_map($plain, $cells));
            $fault = $this->fault($cell, $groups, $seen);
            if ($fault !== null) {
                $faults[] = "Line {$line}: {$fault}";

                continue;
            }
            $seen[$cell['sign_in']] = true;
            $row = ['sign_in' => $cell['sign_in']];
            ($cell['name'] ?? '') === '' || ($row['name'] = $cell['name']);
            array_key_exists('mail', $cell) && ($row['mail'] = $cell['mail'] === '' ? null : $cell['mail']);
            ($cell['role'] ?? '') === '' || ($row['role'] = (string) $this->roleOf($cell['role']));
            array_key_exists('groups', $cell) && ($row['groups'] = self::names($cell['groups']));
            $rows[] = $row;
        }
        fclose($stream);

        return [$rows, $faults];
    }

    /**
     * @param  array<string, string>  $cell
     * @param  array<string, int>  $groups  by name
     * @param  array<string, bool>  $seen
     */
    private function fault(array $cell, array $groups, array $seen): ?string
    {
        $unknown = array_diff(self::names($cell['groups'] ?? ''), array_keys($groups));

        return match (true) {
            preg_match('/^[a-z0-9][a-z0-9._-]{0,59}$/', $cell['sign_in']) !== 1 => "“{$cell['sign_in']}” is not a sign-in name.",
            isset($seen[$cell['sign_in']]) => "“{$cell['sign_in']}” is there twice.",
            mb_strlen($cell['name'] ?? '') > 200 => 'The name is too long.',
            ($cell['mail'] ?? '') !== '' && filter_var($cell['mail'], FILTER_VALIDATE_EMAIL) === false => "“{$cell['mail']}” is not an e-mail address.",
            ($cell['role'] ?? '') !== '' && $this->roleOf($cell['role']) === null => "There is no role “{$cell['role']}”.",
            $unknown !== [] => 'There is no group “'.reset($unknown).'”.',
            default => null,
        };
    }

    /** A role by its code or its name. */
    private function roleOf(string $named): ?string
    {
        foreach ($this->roles->all() as $role) {
            if ($role->code === $named || mb_strtolower($role->name) === mb_strtolower($named)) {
                return $role->code;
            }
        }

        return null;
    }

    /** @return list<string> */
    private static function names(string $groups): array
    {
        return array_values(array_unique(array_filter(array_map(trim(...), explode(';', $groups)), static fn (string $of): bool => $of !== '')));
    }
}
