<?php

declare(strict_types=1);

use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Asking\CannotTell;
use Brenvic\Core\Procedures\Asking\Facts;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\NotNow;
use Brenvic\Core\Procedures\Plan\ActStep;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Plan\EndStep;
use Brenvic\Core\Procedures\Plan\Procedure;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Decided;
use Brenvic\Core\Procedures\Record\Event;
use Brenvic\Core\Procedures\Record\Status;

/** A small office: people 1 to 6, some in groups, one of whom filed the document. Criteria are `big`, `odd`, and one that fails. */
function officeFacts(int $seed = 1, array $in = ['Works' => [1, 2, 3], 'Board' => [3, 4], 'Empty' => []], array $away = []): Facts
{
    return new class($seed, $in, $away) implements Facts
    {
        public function __construct(private int $seed, public array $in, private array $away)
        {
        }

        public function holds(string $criterion): bool
        {
            return match ($criterion) {
                'big' => $this->seed % 2 === 0,
                'odd' => $this->seed % 3 === 0,
                default => throw new CannotTell("“{$criterion}” cannot be looked for."),
            };
        }

        public function hasMembers(string $group): bool
        {
            return ($this->in[$group] ?? []) !== [];
        }

        public function person(string $signIn): ?int
        {
            return is_numeric($signIn) ? (int) $signIn : null;
        }

        public function inField(string $code): array
        {
            return $code === 'nobody' ? [] : [5];
        }

        public function inDossiers(string $code): array
        {
            return [6];
        }

        public function managers(array $people): array
        {
            return $people === [] ? [] : [4];
        }

        public function filer(): int
        {
            return 1;
        }

        public function isIn(int $person, Audience $audience): bool
        {
            return in_array($person, $audience->people, true) ||
                array_filter($audience->groups, fn (string $group): bool => in_array($person, $this->in[$group] ?? [], true)) !== [];
        }

        public function standsInFor(int $person): array
        {
            return $this->away[$person] ?? [];
        }

        public function day(int $workingDays): string
        {
            return sprintf('2026-03-%02d', min(28, $workingDays));
        }
    };
}

function asking(string $code, array $more = []): array
{
    return [
        'code' => $code,
        'name' => ucfirst($code),
        'kind' => 'ask',
        'who' => [['kind' => 'group', 'value' => 'Works']],
        'question' => 'Is it right?',
        'decisions' => [
            ['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]],
            ['code' => 'no', 'label' => 'No', 'ways' => [['to' => 'done']]],
        ],
        ...$more,
    ];
}

function procedureOf(array ...$steps): Procedure
{
    return Procedure::of(['steps' => [...$steps, ['code' => 'done', 'name' => 'Done', 'kind' => 'end']]]);
}

/** Everything that somebody, or time, could do next in a case, by what it is called. */
function nextMoves(Machine $machine, CaseState $state): array
{
    $moves = [];
    foreach (array_keys($state->tasks) as $task) {
        foreach (range(1, 6) as $person) {
            $moves["take {$task} {$person}"] = fn (CaseState $s): array => $machine->take($s, $task, $person);
            $moves["back {$task} {$person}"] = fn (CaseState $s): array => $machine->putBack($s, $task, $person);
            foreach (['yes', 'no'] as $decision) {
                $moves["{$decision} {$task} {$person}"] = fn (CaseState $s): array => $machine->decide($s, $task, $person, $decision, 'so');
            }
            $to = $person % 6 + 1;
            $moves["give {$task} {$person}"] = fn (CaseState $s): array => $machine->give($s, $task, $person, $to);
            $moves["ask {$task} {$person}"] = fn (CaseState $s): array => $machine->question($s, $task, $person, $to, 'Why?');
            $moves["answer {$task} {$person}"] = fn (CaseState $s): array => $machine->answer($s, $task, $person, 'So.');
        }
        $moves["over {$task}"] = fn (CaseState $s): array => $machine->overdue($s, $task);
    }
    $moves['gone 5'] = fn (CaseState $s): array => $machine->gone($s, 5, new Audience(['Board']));
    $moves['resume'] = static fn (CaseState $s): array => $machine->resume($s, 4);
    $moves['on'] = static fn (CaseState $s): array => $machine->next($s) === null ? $machine->goOn($s) : $machine->acted($s, 'done');

    return $moves;
}

/** A procedure made by chance, of steps of all kinds with ways on to any of them. */
function anyProcedure(int $seed): Procedure
{
    mt_srand($seed);
    $count = mt_rand(2, 5);
    $codes = [...array_map(static fn (int $i): string => "s{$i}", range(0, $count - 1)), 'done'];
    $ways = static function () use ($codes): array {
        $to = static fn (): string => $codes[mt_rand(0, count($codes) - 1)];

        return match (mt_rand(0, 3)) {
            0 => [['to' => $to(), 'criterion' => 'big'], ['to' => $to()]],
            1 => [['to' => $to(), 'criterion' => mt_rand(0, 5) === 0 ? 'broken' : 'odd'], ['to' => $to()]],
            default => [['to' => $to()]],
        };
    };
    $party = static fn (): array => [
        ['kind' => 'group', 'value' => ['Works', 'Board', 'Empty'][mt_rand(0, 11) === 0 ? 2 : mt_rand(0, 1)]],
        ['kind' => 'person', 'value' => (string) mt_rand(1, 6)],
        ['kind' => 'field', 'value' => 'author'],
        ['kind' => 'dossier', 'value' => 'lead'],
        ['kind' => 'manager', 'value' => 'filer'],
    ][mt_rand(0, 4)];
    $steps = [];
    foreach (range(0, $count - 1) as $i) {
        $steps[] = mt_rand(0, 3) === 0
            ? [
                'code' => "s{$i}",
                'name' => "S{$i}",
                'kind' => 'act',
                'acts' => array_fill(0, mt_rand(0, 2), ['kind' => 'lock']),
                'ways' => $ways(),
            ]
            : asking("s{$i}", [
                'who' => array_map($party, range(0, mt_rand(0, 2))),
                'mode' => ['any', 'all', 'turn'][mt_rand(0, 2)],
                'not_by' => mt_rand(0, 2) === 0 ? ['filer'] : [],
                'decisions' => [
                    ['code' => 'yes', 'label' => 'Yes', 'ways' => $ways()],
                    ['code' => 'no', 'label' => 'No', 'ways' => $ways()],
                ],
                'deadline' => mt_rand(0, 1) === 0
                    ? null
                    : ['days' => 3, 'then' => ['stay', 'give', 'decide'][mt_rand(0, 2)], 'to' => $party(), 'decision' => 'no'],
            ]);
    }

    return procedureOf(...$steps);
}

/** What must be true of every case at every moment. */
function expectSound(Procedure $procedure, CaseState $state, array $record): void
{
    $step = $procedure->steps[(string) $state->step] ?? null;
    $isPlaced = $state->status === Status::Stopped || $step !== null;
    $fits = match ($state->status) {
        Status::Waiting => $step instanceof AskStep && $state->tasks !== [],
        Status::Acting => $step instanceof ActStep && $state->tasks === [] && $state->acted < count($step->acts),
        Status::Ended => $step instanceof EndStep && $state->tasks === [],
        Status::Stopped => $state->fault !== '',
        default => false,
    };
    foreach ($state->tasks as $task) {
        $fits = $fits && ($task->holder !== null || ! $task->audience->isEmpty());
    }
    if (! $isPlaced || ! $fits) {
        throw new RuntimeException(json_encode([$state, array_map(static fn (Event $e): string => $e->kind(), $record)]));
    }
}

it('loses no case, has none in two places, and comes to the same again from its record, whatever happens', function () {
    $ends = $decisions = 0;
    foreach (range(1, 400) as $seed) {
        $procedure = anyProcedure($seed);
        $machine = new Machine($procedure, officeFacts($seed, away: $seed % 4 === 0 ? [2 => [5]] : []));
        $record = $machine->begin();
        $state = (new CaseState())->after($record);
        foreach (range(1, 60) as $i) {
            expectSound($procedure, $state, $record);
            if ($state->status->isOver()) {
                $ends++;
                break;
            }
            $moves = nextMoves($machine, $state);
            $move = array_values($moves)[mt_rand(0, count($moves) - 1)];
            try {
                $events = $move($state);
            } catch (NotNow $why) {
                expect($why->getMessage())->toEndWith('.');

                continue;
            }
            foreach ($events as $event) {
                if ($event instanceof Decided && $event->by !== null) {
                    $decisions++;
                    expect($state->tasks[$event->task]->excluded)->not->toContain($event->by);
                }
            }
            $state = $state->after($events);
            array_push($record, ...$events);
        }
        // As it is written and read again.
        $again = array_map(
            static fn (Event $e): Event => Event::of($e->kind(), $e->by(), json_decode((string) json_encode($e->detail()), true)),
            $record,
        );
        expect((new CaseState())->after($again))->toEqual($state)->and($state->length)->toBe(count($record));
    }
    expect($ends)->toBeGreaterThan(50)->and($decisions)->toBeGreaterThan(200);
});

it('ends every pair of acts at once in what one order allows, and tells the second', function () {
    $told = $both = 0;
    foreach (range(1, 60) as $seed) {
        $procedure = anyProcedure($seed);
        $machine = new Machine($procedure, officeFacts($seed));
        $state = (new CaseState())->after($machine->begin());
        $moves = nextMoves($machine, $state);
        foreach (array_keys($moves) as $first) {
            try {
                $after = $state->after($moves[$first]($state));
            } catch (NotNow) {
                continue;
            }
            expectSound($procedure, $after, []);
            foreach (array_keys($moves) as $second) {
                try {
                    $events = $moves[$second]($after);
                } catch (NotNow) {
                    $told++;

                    continue;
                }
                $last = $after->after($events);
                expectSound($procedure, $last, []);
                $both++;
                // Nobody decides what is decided: of two decisions on one task the second is told.
                if (preg_match('/^(yes|no) (\d)/', $first, $a) === 1 && preg_match('/^(yes|no) (\d)/', $second, $b) === 1) {
                    expect($a[2])->not->toBe($b[2]);
                }
            }
        }
    }
    expect($told)->toBeGreaterThan(1_000)->and($both)->toBeGreaterThan(1_000);
});

it('goes where the values say, and stops with a reason where they cannot be asked', function (string $criterion, int $seed, ?string $step, string $fault) {
    $procedure = procedureOf(
        asking('check', ['decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'boss', 'criterion' => $criterion], ['to' => 'done']]]]]),
        asking('boss', ['who' => [['kind' => 'manager', 'value' => 'filer']]]),
    );
    $machine = new Machine($procedure, officeFacts($seed));
    $state = (new CaseState())->after($machine->begin());
    $state = $state->after($machine->decide($state, 1, 2, 'yes'));
    expect($state->step)->toBe($step)->and($state->fault)->toBe($fault);
    if ($fault !== '') {
        // It stands at the step whose way could not be told, with the decision that was made.
        expect($state->status)->toBe(Status::Stopped)->and($state->choice)->toBe('yes');
        expect($state->after($machine->goOn($state))->status)->toBe(Status::Stopped);
    }
})->with([
    ['big', 2, 'boss', ''],
    ['big', 1, 'done', ''],
    ['broken', 1, 'check', '“broken” cannot be looked for.'],
]);

it('asks several side by side, or in turn, and takes the first other decision as theirs', function (string $mode, int $open) {
    $procedure = procedureOf(
        asking('check', [
            'mode' => $mode,
            'who' => [['kind' => 'group', 'value' => 'Works'], ['kind' => 'group', 'value' => 'Board']],
            'decisions' => [
                ['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]],
                ['code' => 'no', 'label' => 'No', 'ways' => [['to' => 'again']]],
            ],
        ]),
        asking('again'),
    );
    $machine = new Machine($procedure, officeFacts());
    $begun = (new CaseState())->after($machine->begin());
    expect($begun->tasks)->toHaveCount($open);
    $one = $begun->after($machine->decide($begun, 1, 3, 'yes'));
    expect($one->step)->toBe('check')->and(array_keys($one->tasks))->toBe([2]);
    // Person 3 is in both groups, and has decided.
    expect(fn () => $machine->decide($one, 2, 3, 'yes'))->toThrow(NotNow::class, 'decided');
    expect($one->after($machine->decide($one, 2, 4, 'yes'))->status)->toBe(Status::Ended);
    expect($one->after($machine->decide($one, 2, 4, 'no'))->step)->toBe('again');
    expect($begun->after($machine->decide($begun, 1, 2, 'no'))->step)->toBe('again');
})->with([['all', 2], ['turn', 1]]);

it('keeps four eyes apart: who filed it or decided before does not decide, for nobody', function () {
    $procedure = procedureOf(
        asking('check', [
            'not_by' => ['filer'],
            'decisions' => [['code' => 'yes', 'label' => 'Yes', 'comment' => true, 'ways' => [['to' => 'sign']]]],
        ]),
        asking('sign', ['not_by' => ['check']]),
    );
    $machine = new Machine($procedure, officeFacts(away: [1 => [2], 6 => [1]]));
    $state = (new CaseState())->after($machine->begin());
    // 1 filed it, whomever they stand in for; 6 stands in for who filed it.
    expect(fn () => $machine->decide($state, 1, 1, 'yes', 'so'))->toThrow(NotNow::class, 'somebody else');
    expect(fn () => $machine->decide($state, 1, 6, 'yes', 'so'))->toThrow(NotNow::class, 'not for you');
    expect(fn () => $machine->give($state, 1, 2, 1))->toThrow(NotNow::class, 'may not decide');
    expect(fn () => $machine->decide($state, 1, 2, 'yes', '  '))->toThrow(NotNow::class, 'needs a comment');
    $state = $state->after($machine->decide($state, 1, 2, 'yes', 'so'));
    expect($state->step)->toBe('sign');
    expect(fn () => $machine->decide($state, 2, 2, 'yes'))->toThrow(NotNow::class, 'somebody else');
    expect($state->after($machine->decide($state, 2, 3, 'yes'))->status)->toBe(Status::Ended);
});

it('is for others once somebody is gone', function () {
    $procedure = procedureOf(asking('check', ['who' => [['kind' => 'field', 'value' => 'author']]]), asking('sign'));
    $machine = new Machine($procedure, officeFacts());
    $state = (new CaseState())->after($machine->begin());
    expect($state->tasks[1]->holder)->toBe(5);
    $state = $state->after($machine->gone($state, 5, new Audience(['Board'])));
    expect($state->tasks[1]->holder)->toBeNull()->and($state->tasks[1]->audience->groups)->toBe(['Board']);
    expect($state->after($machine->decide($state, 1, 4, 'yes'))->status)->toBe(Status::Ended);
});

it('waits for an answer, and stands in for who is away', function () {
    $machine = new Machine(procedureOf(asking('check')), officeFacts(away: [6 => [2]]));
    $state = (new CaseState())->after($machine->begin());
    $state = $state->after($machine->take($state, 1, 2));
    expect(fn () => $machine->decide($state, 1, 3, 'yes'))->toThrow(NotNow::class, 'taken this');
    $state = $state->after($machine->question($state, 1, 2, 4, 'Which lock?'));
    expect(fn () => $machine->answer($state, 1, 5, 'That one.'))->toThrow(NotNow::class);
    $state = $state->after($machine->answer($state, 1, 4, 'That one.'));
    $events = $machine->decide($state, 1, 6, 'yes');
    expect($events[0])->toBeInstanceOf(Decided::class)->and($events[0]->detail()['for'])->toBe(2);
});

it('names what is wrong with a procedure', function (array $steps, string $fault) {
    $told = array_column(Procedure::of(['steps' => $steps])->faults(), 1);
    expect(implode(' ', $told))->toContain($fault);
})->with([
    [[], 'no step'],
    [[asking('check')], 'no end'],
    [[asking('check', ['who' => []]), ['code' => 'done', 'name' => 'Done', 'kind' => 'end']], 'Nobody is asked'],
    [[asking('check', ['question' => ' ']), ['code' => 'done', 'name' => 'Done', 'kind' => 'end']], 'what is asked'],
    [[asking('check', ['decisions' => [['code' => 'yes', 'label' => 'Yes']]]), ['code' => 'done', 'name' => 'Done', 'kind' => 'end']], '“Yes” leads nowhere'],
    [
        [
            asking('check', ['decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done', 'criterion' => 'big']]]]]),
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ],
        'none of its criteria holds',
    ],
    [[asking('check'), asking('apart'), ['code' => 'done', 'name' => 'Done', 'kind' => 'end']], 'Apart: no way leads here'],
    [
        [
            asking('check', ['decisions' => [
                ['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]],
                ['code' => 'no', 'label' => 'No', 'ways' => [['to' => 'circle']]],
            ]]),
            ['code' => 'circle', 'name' => 'Circle', 'kind' => 'act', 'ways' => [['to' => 'circle']]],
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ],
        'Circle: no way leads from here to an end',
    ],
    [[asking('check', ['deadline' => ['days' => 2, 'reminder' => 4]]), ['code' => 'done', 'name' => 'Done', 'kind' => 'end']], 'after the deadline'],
    [
        [
            asking('check', ['decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'act']]]]]),
            ['code' => 'act', 'name' => 'Act', 'kind' => 'act', 'acts' => [['kind' => 'mail', 'address' => 'sender']], 'ways' => [['to' => 'done']]],
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ],
        'subject',
    ],
]);

it('goes round no more often than anybody meant', function () {
    $circle = ['code' => 'circle', 'name' => 'Circle', 'kind' => 'act', 'ways' => [['to' => 'circle', 'criterion' => 'big'], ['to' => 'done']]];
    $machine = new Machine(Procedure::of(['steps' => [$circle, ['code' => 'done', 'name' => 'Done', 'kind' => 'end']]]), officeFacts(2));
    $state = (new CaseState())->after($machine->begin());
    expect($state->status)->toBe(Status::Stopped)->and($state->fault)->toContain('came 20 times');
});
