<?php

declare(strict_types=1);

namespace Demo;

use App\Catalog\Catalog;
use App\Catalog\DesignTables;
use App\Design\DesignPublished;
use App\Design\PartShape;
use App\Models\Document;
use App\Models\Group;
use App\Models\ProcedureCase;
use App\Models\User;
use App\People\Groups;
use App\Procedures\Cases;
use App\Procedures\FormKeys;
use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Status;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** How the Trust handles tenders, mooring permits and stoppage notices, the people of its offices, and cases of all three. */
final class Procedures
{
    /** sign-in name => name, role, groups */
    public const PEOPLE = [
        'works' => ['Perpetua Lamb', 'reader', ['Everyone', 'Works office']],
        'engineer' => ['Ruan Tolley', 'reader', ['Everyone', 'Works office']],
        'harbour' => ['Tamsin Quill', 'reader', ['Everyone', 'Harbour office']],
    ];

    /** Above this the manager decides on a tender, in pounds. */
    public const LIMIT = 40_000;

    private const COMMENTS = [
        'The price of the sill beams is explained on the third page.',
        'As agreed on site.',
        'Compared with the two others; this one is complete.',
        'The drawings are missing. Ask for them.',
        'Seen with the lock keeper.',
        '',
        '',
        '',
    ];

    /** @return array<string, array<string, mixed>> by code */
    public static function parts(): array
    {
        $group = static fn (string $name): array => ['kind' => 'group', 'value' => $name];
        $to = static fn (string $step): array => [['to' => $step]];

        return [
            'tender' => [
                'name' => 'Tender',
                'types' => ['tender'],
                'begins' => 'filing',
                'keepers' => 'Records office',
                'steps' => [
                    [
                        'code' => 'check',
                        'name' => 'Checked by the works office',
                        'kind' => 'ask',
                        'who' => [$group('Works office')],
                        'not_by' => ['filer'],
                        'question' => 'Is the tender complete, and is the price explained?',
                        'sheet' => [['code' => 'amount', 'required' => true], ['code' => 'structure']],
                        'decisions' => [
                            [
                                'code' => 'complete',
                                'label' => 'Complete',
                                'ways' => [['to' => 'manager', 'criterion' => 'amount > '.self::LIMIT], ['to' => 'order']],
                            ],
                            ['code' => 'return', 'label' => 'Return to the contractor', 'comment' => true, 'ways' => $to('returned')],
                        ],
                        'deadline' => ['days' => 5, 'reminder' => 3],
                    ],
                    [
                        'code' => 'order',
                        'name' => 'Ordered by the works office',
                        'kind' => 'ask',
                        'who' => [$group('Works office')],
                        'not_by' => ['filer', 'check'],
                        'question' => 'May the work be ordered?',
                        'decisions' => [
                            ['code' => 'accept', 'label' => 'Accept', 'ways' => $to('accept')],
                            ['code' => 'decline', 'label' => 'Decline', 'comment' => true, 'ways' => $to('decline')],
                        ],
                        'many' => true,
                        'deadline' => ['days' => 10, 'reminder' => 8],
                    ],
                    [
                        'code' => 'manager',
                        'name' => 'Decided by the manager',
                        'kind' => 'ask',
                        'who' => [['kind' => 'person', 'value' => 'manager']],
                        'question' => 'The tender is above the limit of the works office. Is it accepted?',
                        'decisions' => [
                            ['code' => 'accept', 'label' => 'Accept', 'ways' => $to('accept')],
                            ['code' => 'decline', 'label' => 'Decline', 'comment' => true, 'ways' => $to('decline')],
                            ['code' => 'again', 'label' => 'Check again', 'comment' => true, 'ways' => $to('check')],
                        ],
                        'deadline' => ['days' => 5, 'reminder' => 4],
                    ],
                    [
                        'code' => 'accept',
                        'name' => 'Stamped and put into its dossier',
                        'kind' => 'act',
                        'acts' => [
                            ['kind' => 'stamp', 'text' => 'Accepted', 'values' => ['amount']],
                            ['kind' => 'new_dossier', 'dossier_kind' => 'works_contract'],
                            ['kind' => 'retention'],
                            ['kind' => 'lock'],
                        ],
                        'ways' => [['to' => 'tell', 'criterion' => 'attached == 1 or file_type == mail'], ['to' => 'accepted']],
                    ],
                    [
                        'code' => 'tell',
                        'name' => 'The contractor is told',
                        'kind' => 'act',
                        'acts' => [[
                            'kind' => 'mail',
                            'address' => 'sender',
                            'subject' => 'Your tender of {document_date} is accepted',
                            'text' => "Your tender of {document_date} for {structure} at {amount} is accepted.\n\n{decided_by}\nTarnwick Canal & Harbour Trust",
                        ]],
                        'ways' => $to('accepted'),
                    ],
                    [
                        'code' => 'decline',
                        'name' => 'Stamped as declined',
                        'kind' => 'act',
                        'acts' => [['kind' => 'stamp', 'text' => 'Declined']],
                        'ways' => $to('declined'),
                    ],
                    ['code' => 'accepted', 'name' => 'Accepted', 'kind' => 'end'],
                    ['code' => 'declined', 'name' => 'Declined', 'kind' => 'end'],
                    ['code' => 'returned', 'name' => 'Returned', 'kind' => 'end'],
                ],
            ],
            'mooring' => [
                'name' => 'Mooring permit',
                'types' => ['mooring_permit'],
                'begins' => 'filing',
                'keepers' => 'Records office',
                'steps' => [
                    [
                        'code' => 'look',
                        'name' => 'Looked at by the harbour office',
                        'kind' => 'ask',
                        'who' => [$group('Harbour office')],
                        'question' => 'Is the berth free for this vessel, and deep enough?',
                        'sheet' => [['code' => 'berth', 'required' => true], ['code' => 'valid_until', 'required' => true]],
                        'decisions' => [
                            ['code' => 'grant', 'label' => 'Grant', 'ways' => $to('issue')],
                            ['code' => 'refuse', 'label' => 'Refuse', 'comment' => true, 'ways' => $to('refused')],
                        ],
                        'deadline' => ['days' => 3, 'reminder' => 2],
                    ],
                    [
                        'code' => 'issue',
                        'name' => 'Issued',
                        'kind' => 'act',
                        'acts' => [['kind' => 'stamp', 'text' => 'Granted until {valid_until}', 'values' => ['berth']]],
                        'ways' => $to('renewal'),
                    ],
                    [
                        'code' => 'renewal',
                        'name' => 'Waiting for renewal',
                        'kind' => 'ask',
                        'who' => [$group('Harbour office')],
                        'question' => 'Is the permit renewed, or does it end?',
                        'decisions' => [
                            ['code' => 'renew', 'label' => 'Renew', 'fields' => ['valid_until'], 'ways' => $to('issue')],
                            ['code' => 'end', 'label' => 'Let it end', 'ways' => $to('ended')],
                        ],
                        'many' => true,
                        'deadline' => ['days' => 230, 'reminder' => 210],
                    ],
                    ['code' => 'ended', 'name' => 'Ended', 'kind' => 'end'],
                    ['code' => 'refused', 'name' => 'Refused', 'kind' => 'end'],
                ],
            ],
            'stoppage' => [
                'name' => 'Stoppage notice',
                'types' => ['stoppage_notice'],
                'begins' => 'filing',
                'keepers' => 'Records office',
                'steps' => [
                    [
                        'code' => 'sign',
                        'name' => 'Signed',
                        'kind' => 'ask',
                        'who' => [$group('Works office')],
                        'not_by' => ['filer'],
                        'question' => 'Is the stoppage needed on these days?',
                        'decisions' => [
                            ['code' => 'sign', 'label' => 'Sign', 'ways' => $to('counter')],
                            ['code' => 'withdraw', 'label' => 'Withdraw', 'comment' => true, 'ways' => $to('withdrawn')],
                        ],
                        'deadline' => ['days' => 2, 'reminder' => 1, 'then' => 'give', 'to' => ['kind' => 'person', 'value' => 'manager']],
                    ],
                    [
                        'code' => 'counter',
                        'name' => 'Counter-signed',
                        'kind' => 'ask',
                        'who' => [$group('Works office'), $group('Harbour office')],
                        'not_by' => ['filer', 'sign'],
                        'question' => 'May boats be stopped on these days?',
                        'decisions' => [
                            ['code' => 'sign', 'label' => 'Counter-sign', 'ways' => $to('publish')],
                            ['code' => 'withdraw', 'label' => 'Withdraw', 'comment' => true, 'ways' => $to('withdrawn')],
                        ],
                        'many' => true,
                        'deadline' => ['days' => 2, 'reminder' => 1],
                    ],
                    [
                        'code' => 'publish',
                        'name' => 'Stamped and locked',
                        'kind' => 'act',
                        'acts' => [
                            ['kind' => 'stamp', 'text' => 'Signed and counter-signed'],
                            ['kind' => 'lock'],
                            ['kind' => 'notice', 'to' => $group('Harbour office'), 'text' => 'In force: {title}'],
                        ],
                        'ways' => $to('in_force'),
                    ],
                    ['code' => 'in_force', 'name' => 'In force', 'kind' => 'end'],
                    ['code' => 'withdrawn', 'name' => 'Withdrawn', 'kind' => 'end'],
                ],
            ],
        ];
    }

    /** Publishes the procedures and adds the people of the offices that act in them. */
    public static function install(): void
    {
        DB::transaction(static function (): void {
            foreach (self::PEOPLE as $signIn => [$name, $role, $of]) {
                foreach ($of as $group) {
                    Group::query()->firstOrCreate(['name' => $group]);
                }
                $user = User::query()->create([
                    'name' => $name,
                    'sign_in' => $signIn,
                    'password' => TrustDesign::PASSWORD,
                    'role' => $role,
                    'manager_id' => User::query()->where('sign_in', 'manager')->value('id'),
                ]);
                Groups::put($user, $of);
            }
            $design = new Design();
            foreach (self::parts() as $code => $content) {
                $design = $design->with(DesignKind::Procedure, $code, PartShape::complete(DesignKind::Procedure, $content));
            }
            $design = $design
                ->with(DesignKind::Source, 'works_mail', PartShape::complete(DesignKind::Source, [
                    'name' => 'Mail of the works office',
                    'way' => 'mailbox',
                    'mailbox' => 'works',
                    'rules' => [['criterion' => 'subject = tender', 'type' => 'tender']],
                    'library' => 'works',
                    'group' => 'Records office',
                ]))
                ->with(DesignKind::View, 'with_manager', PartShape::complete(DesignKind::View, [
                    'name' => 'Waiting for the manager',
                    'criterion' => 'procedure_step == tender.manager',
                    'columns' => ['title', 'contractor', 'amount', 'waits_for', 'step_since'],
                    'sort' => [['field' => 'step_since', 'descending' => false]],
                    'position' => 500,
                ]));
            $design = $design->with(DesignKind::WorkForm, 'fault', PartShape::complete(DesignKind::WorkForm, [
                'name' => 'Report of a fault',
                'intro' => 'Something is broken, or somebody is in danger? Ring the harbour office first. Then tell us here.',
                'thanks' => 'Thank you. The records office has it, and somebody will look.',
                'library' => 'harbour',
                'types' => ['incident_report'],
                'fields' => [
                    ['code' => 'document_date', 'required' => true],
                    ['code' => 'place', 'required' => true],
                    ['code' => 'vessel'],
                    ['code' => 'severity'],
                    ['code' => 'remarks', 'required' => true],
                ],
                'files' => 5,
                'group' => 'Records office',
            ]));
            $changes = DesignChange::between(new Design(), $design);
            foreach ($changes as $change) {
                app(DesignTables::class)->apply($change, 1);
            }
            event(new DesignPublished($changes));
        });
        app()->forgetScopedInstances();
        app(FormKeys::class)->make('fault', User::query()->where('sign_in', 'librarian')->firstOrFail());
    }

    /**
     * Makes cases in every state, in the weeks before now, with documents that are there.
     *
     * @return int how many
     */
    public static function cases(): int
    {
        $queue = config('queue.default');
        config(['queue.default' => 'sync']);
        $now = Carbon::now();
        $chance = new Chance(21);
        $made = 0;
        try {
            foreach (['tender' => ['tender', 45], 'mooring' => ['mooring_permit', 45], 'stoppage' => ['stoppage_notice', 34]] as $code => [$type, $count]) {
                $documents = Document::query()
                    ->whereHas('type', static fn ($of) => $of->where('code', $type))
                    ->where('state', Document::FILED)
                    ->orderByDesc('id')
                    ->limit($count)
                    ->get();
                foreach ($documents as $document) {
                    self::run($code, $document, $chance, $now, $made++ % 3 === 0);
                }
            }
            self::apart();
        } finally {
            Carbon::setTestNow();
            // What was told long ago has been looked at.
            DB::table('notices')->where('at', '<', $now->copy()->subDays(4))->update(['seen_at' => $now]);
            config(['queue.default' => $queue]);
        }

        return $made;
    }

    private static function run(string $code, Document $document, Chance $chance, Carbon $now, bool $isFresh): void
    {
        // What began long ago is mostly over by now.
        $age = $isFresh ? $chance->int(1, 9) : $chance->int(8, 70);
        Carbon::setTestNow($now->copy()->subDays($age)->setTime($chance->int(8, 16), $chance->int(0, 59)));
        $part = app(Catalog::class)->design()->one(ProcedurePart::class, $code) ?? throw new \LogicException($code);
        $case = app(Cases::class)->begin($part, $document, User::query()->where('sign_in', 'clerk')->first());
        for ($i = 0, $most = $isFresh ? $chance->int(0, 1) : ($chance->oneIn(6) ? 1 : 6); $i < $most; $i++) {
            $case = ProcedureCase::query()->findOrFail($case->id);
            if ($case->status !== Status::Waiting) {
                break;
            }
            $next = Carbon::now()->addHours($chance->int(3, 90));
            if ($next->greaterThan($now)) {
                break;
            }
            Carbon::setTestNow($next);
            self::decide($case, $part, $chance);
        }
    }

    /** One that was cancelled, and one that cannot go on: nobody knows whom the mail goes to. */
    private static function apart(): void
    {
        $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
        $waiting = ProcedureCase::query()->where('procedure', 'tender')->where('status', Status::Waiting)->orderByDesc('id')->limit(2)->get();
        if ($waiting->count() === 2) {
            app(Cases::class)->act(
                $waiting->firstOrFail(),
                static fn (Machine $machine, CaseState $state): array => $machine->giveUp($state, $clerk->id, 'Withdrawn by the contractor.'),
            );
            app(Cases::class)->move($waiting->last() ?? $waiting->firstOrFail(), 'tell', $clerk);
        }
    }

    /** Somebody who may decides; most of them as most would. */
    private static function decide(ProcedureCase $case, ProcedurePart $part, Chance $chance): void
    {
        $step = $part->procedure->steps[(string) $case->step] ?? null;
        if (! $step instanceof AskStep) {
            return;
        }
        $decision = $step->decisions[$chance->oneIn(4) ? count($step->decisions) - 1 : 0];
        $comment = self::COMMENTS[$chance->int(0, count(self::COMMENTS) - 1)];
        $people = ['works', 'engineer', 'harbour', 'manager'];
        if ($chance->oneIn(2)) {
            [$people[0], $people[1]] = [$people[1], $people[0]];
        }
        foreach ($people as $signIn) {
            $person = User::query()->where('sign_in', $signIn)->firstOrFail();
            try {
                app(Cases::class)->act($case, static function (Machine $machine, CaseState $state) use ($person, $decision, $comment): array {
                    $task = (int) array_key_first($state->tasks);

                    return $machine->decide($state, $task, $person->id, $decision->code, $comment === '' && $decision->needsComment ? 'Not as it was asked for.' : $comment);
                });

                return;
            } catch (Refused) {
                // It is for somebody else.
            }
        }
    }
}
