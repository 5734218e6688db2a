<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Models\Group;
use App\Models\Roles;
use App\Models\User;
use App\People\Groups;
use App\People\People;
use App\People\PeopleTable;
use App\People\PersonGiven;
use App\Support\Column;
use App\Support\Refused;

final class PeopleCommand extends PlainCommand
{
    protected $signature = 'brenvic:people
        {act=list : list, add, change, code, out, back, export, import or groups}
        {sign_in? : the person’s sign-in name; the group, with groups; the CSV file, with import}
        {--name= : the name} {--mail= : the address that codes are mailed to} {--role= : by its code}
        {--group=* : groups, of which new ones are made; with groups, those that are in it}
        {--to= : sign-in name of who takes over what the person has in hand} {--try : with import, only say what would be done}
        {--json : the list as JSON}';

    protected $description = 'Lists people, makes and changes them, gives one-time codes, and puts people out of use';

    public function handle(People $people): int
    {
        try {
            return match ((string) $this->argument('act')) {
                'list' => $this->listed(),
                'add' => $this->add($people),
                'change' => $this->change($people),
                'code' => $this->code($people->code(null, $this->person())),
                'out' => $this->out($people),
                'back' => $this->back($people),
                'export' => $this->export(),
                'import' => $this->import(),
                'groups' => $this->putGroups(),
                default => throw new Refused('Acts are list, add, change, code, out, back, export, import and groups.'),
            };
        } catch (Refused $refused) {
            $this->error($refused->getMessage());

            return self::FAILURE;
        }
    }

    private function listed(): int
    {
        $people = User::query()->with('groups')->orderBy('sign_in')->get();
        if ($this->option('json')) {
            $this->json(
                $people
                    ->map(
                        static fn (User $p): array => [
                            'sign_in' => $p->sign_in,
                            'name' => $p->name,
                            'mail' => $p->mail,
                            'role' => $p->role->code,
                            'groups' => $p->groups->pluck('name')->sort()->values()->all(),
                            'out_of_use_at' => $p->out_of_use_at?->toIso8601String(),
                            'last_sign_in_at' => $p->last_sign_in_at?->toIso8601String(),
                        ],
                    )
                    ->all(),
            );

            return self::SUCCESS;
        }
        foreach ($people as $p) {
            $this->line(
                sprintf(
                    '%-16s %-24s %-18s %s%s',
                    $p->sign_in,
                    $p->name,
                    $p->role->name,
                    $p->groups->pluck('name')->sort()->implode(', '),
                    $p->out_of_use_at === null ? '' : ' (out of use)',
                ),
            );
        }

        return self::SUCCESS;
    }

    private function add(People $people): int
    {
        $signIn = (string) $this->argument('sign_in');
        if (preg_match('/^[a-z0-9][a-z0-9._-]{0,59}$/', $signIn) !== 1) {
            throw new Refused('A sign-in name has lower-case letters, digits, dots, - and _, and starts with a letter or digit.');
        }
        if (User::query()->where('sign_in', $signIn)->exists()) {
            throw new Refused("Somebody has the sign-in name “{$signIn}”.");
        }
        $name = (string) ($this->option('name') ?? $signIn);
        [, $code] = $people->add(null, $signIn, new PersonGiven($name, $this->role() ?? 'reader', $this->groups(), $this->mail()));

        return $this->code($code);
    }

    private function change(People $people): int
    {
        $person = $this->person();
        $groups = $this->option('group') === [] ? Column::texts($person->groups()->orderBy('name')->pluck('name')) : $this->groups();
        $name = (string) ($this->option('name') ?? $person->name);
        $people->change(null, $person, new PersonGiven($name, $this->role() ?? $person->role->code, $groups, $this->mail() ?? $person->mail));
        $this->line("{$person->name} is changed.");

        return self::SUCCESS;
    }

    private function export(): int
    {
        $this->raw(app(PeopleTable::class)->csv());

        return self::SUCCESS;
    }

    private function import(): int
    {
        $csv = @file_get_contents((string) $this->argument('sign_in'));
        if ($csv === false) {
            throw new Refused('Name the CSV file that people are taken from.');
        }
        $report = app(PeopleTable::class)->taken(null, $csv, ! $this->option('try'));
        array_map($this->warn(...), $report['faults']);
        $this->line(count($report['added']).' added, '.count($report['changed'])." changed, {$report['same']} the same.");
        foreach ($report['codes'] as $signIn => $code) {
            $this->line("{$signIn} {$code}");
        }

        return $report['faults'] === [] ? self::SUCCESS : self::FAILURE;
    }

    /** Puts just these groups into one. */
    private function putGroups(): int
    {
        $group = Group::query()->where('name', (string) $this->argument('sign_in'))->first() ??
            throw new Refused('Name the group that others are put into.');
        Groups::putGroups(null, $group, $this->groups());
        $this->line("In {$group->name}: ".(implode(', ', Groups::in($group)) ?: 'no group').'.');

        return self::SUCCESS;
    }

    /** @throws Refused */
    private function mail(): ?string
    {
        $mail = $this->option('mail');
        if ($mail !== null && filter_var($mail, FILTER_VALIDATE_EMAIL) === false) {
            throw new Refused("“{$mail}” is not an e-mail address.");
        }

        return $mail;
    }

    private function out(People $people): int
    {
        $to = $this->option('to');
        $heir =
            $to === null
                ? null
                : User::query()->where('sign_in', $to)->first() ?? throw new Refused("There is nobody with the sign-in name “{$to}”.");
        $hand = $people->putOut(null, $this->person(), $heir);
        $this->line(
            "Out of use. Handed on: {$hand['check_outs']} checked out, {$hand['waiting']} waiting in intake, {$hand['lists']} pull lists, {$hand['searches']} shared searches.",
        );

        return self::SUCCESS;
    }

    private function back(People $people): int
    {
        $person = $this->person();
        $people->bringBack(null, $person);
        $this->line("{$person->name} is in use again.");

        return self::SUCCESS;
    }

    private function code(string $code): int
    {
        $this->line("One-time code, good for seven days: {$code}");

        return self::SUCCESS;
    }

    private function person(): User
    {
        $signIn = (string) $this->argument('sign_in');

        return User::query()->where('sign_in', $signIn)->first() ?? throw new Refused("There is nobody with the sign-in name “{$signIn}”.");
    }

    private function role(): ?string
    {
        $given = $this->option('role');

        return $given === null
            ? null
            : app(Roles::class)->all()[(string) $given]->code ?? throw new Refused('Roles are '.implode(', ', array_keys(app(Roles::class)->all())).'.');
    }

    /** @return list<string> names; groups that were not there are made */
    private function groups(): array
    {
        $names = array_values(array_map(strval(...), (array) $this->option('group')));
        foreach ($names as $name) {
            Group::query()->firstOrCreate(['name' => $name]);
        }

        return $names;
    }
}
