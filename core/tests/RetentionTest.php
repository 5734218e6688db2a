<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Design\FieldMerge;
use Brenvic\Core\Design\KeptDocuments;
use Brenvic\Core\Design\RetentionEffect;
use Brenvic\Core\Design\RetentionOfDesign;
use Brenvic\Core\Design\SystemFields;
use Brenvic\Core\Design\Touched;
use Brenvic\Core\Design\VocabularyPart;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Retention\CountedFrom;
use Brenvic\Core\Retention\Facts\KeptDocument;
use Brenvic\Core\Retention\Keeping;
use Brenvic\Core\Retention\KeepingState;
use Brenvic\Core\Retention\Period;
use Brenvic\Core\Retention\Quarter;
use Brenvic\Core\Retention\RetentionAction;
use Brenvic\Core\Retention\Rules;

/** A scheme of three levels, two types and a dossier kind, with rules as they are given. */
function keptDesign(array $terms = [], ?array $type = null, ?array $dossier = null): Design
{
    $concept = static fn (string $code, ?string $parent, array $more = []): array => [
        'code' => $code,
        'label' => "Concept {$code}",
        'notation' => $code,
        'parent' => $parent,
        'retention' => $terms[$code] ?? null,
        ...$more,
    ];

    return (new Design)
        ->with(DesignKind::Vocabulary, 'functions', [
            'name' => 'Functions',
            'scheme' => true,
            'terms' => [
                $concept('N', null),
                $concept('N1', 'N'),
                $concept('N11', 'N1'),
                $concept('H', null),
                $concept('H1', 'H', ['also_below' => ['N1']]),
            ],
        ])
        ->with(DesignKind::Field, 'subject', ['label' => 'Subject', 'kind' => 'choice', 'vocabulary' => 'functions', 'multiple' => true])
        ->with(DesignKind::Field, 'day', ['label' => 'Document date', 'kind' => 'date'])
        ->with(DesignKind::Field, 'renewed', ['label' => 'Renewed on', 'kind' => 'date', 'multiple' => true])
        ->with(DesignKind::Field, 'term', ['label' => 'Term', 'kind' => 'date_range'])
        ->with(DesignKind::Field, 'dispute', ['label' => 'In dispute', 'kind' => 'text'])
        ->with(DesignKind::Field, 'replaces', ['label' => 'Replaces', 'kind' => 'reference'])
        ->with(DesignKind::Type, 'contract', ['name' => 'Contract', 'fields' => [], 'retention' => $type])
        ->with(DesignKind::Type, 'note', ['name' => 'Note', 'fields' => []])
        ->with(DesignKind::DossierKind, 'works', ['name' => 'Works', 'fields' => [], 'retention' => $dossier])
        ->with(DesignKind::Procedure, 'check', [
            'name' => 'Check',
            'steps' => [['code' => 'end', 'name' => 'End', 'kind' => 'end']],
        ]);
}

function ruleOf(string $after, int $years, string $action = 'destroy', array $more = []): array
{
    return ['after' => $after, 'years' => $years, 'action' => $action, ...$more];
}

function keepingOf(Design $design, KeptDocument $document): Keeping
{
    return RetentionOfDesign::rules($design)->of($document);
}

test('a period is counted on the calendar, and never ends too early', function (string $day, int $years, int $months, string $from, string $due) {
    $period = new Period($years, $months, CountedFrom::from($from));
    expect(PartialDate::ofDay($period->after(PartialDate::parse($day)->lastDay(), 4))->iso())->toBe($due);
})->with([
    ['2019-03-14', 7, 0, 'day', '2026-03-14'],
    ['2019', 7, 0, 'day', '2026-12-31'],
    ['2020-02-29', 1, 0, 'day', '2021-02-28'],
    ['2020-02-29', 4, 0, 'day', '2024-02-29'],
    ['2019-08-31', 0, 6, 'day', '2020-02-29'],
    ['2019-11-30', 1, 3, 'day', '2021-02-28'],
    ['2019-03-14', 7, 0, 'year', '2026-12-31'],
    ['2019-03-31', 2, 0, 'fiscal_year', '2021-03-31'],
    ['2019-04-01', 2, 0, 'fiscal_year', '2022-03-31'],
    ['2019-03-14', 0, 0, 'day', '2019-03-14'],
    ['9990-01-01', 500, 0, 'day', '9999-01-01'],
]);

test('periods agree with the calendar of PHP', function () {
    mt_srand(7);
    for ($i = 0; $i < 2_000; $i++) {
        $day = (new DateTimeImmutable('1900-01-01'))->modify('+'.mt_rand(0, 60_000).' days');
        $months = mt_rand(0, 11);
        $years = mt_rand(0, 60);
        $first = $day->modify('first day of this month')->modify("+{$years} years +{$months} months");
        $expected = $first->setDate(
            (int) $first->format('Y'),
            (int) $first->format('n'),
            min((int) $day->format('j'), (int) $first->format('t')),
        );
        $due = (new Period($years, $months))->after(PartialDate::parse($day->format('Y-m-d'))->firstDay(), 4);
        expect(PartialDate::ofDay($due)->iso())->toBe($expected->format('Y-m-d'));
    }
});

test('a concept without a rule has that of the nearest above it, and says which', function () {
    $design = keptDesign(['N' => ruleOf('day', 7)]);
    $kept = keepingOf($design, new KeptDocument(values: ['subject' => ['N11'], 'day' => ['2019-03-14']]));
    expect($kept->state)->toBe(KeepingState::Dated)
        ->and($kept->dueOn()?->iso())->toBe('2026-03-14')
        ->and($kept->action())->toBe(RetentionAction::Destroy)
        ->and($kept->rule?->code)->toBe('concept.functions.N')
        ->and($kept->reason)->toBe('by concept N Concept N, 7 years after Document date');
    $nearer = keptDesign(['N' => ruleOf('day', 7), 'N1' => ruleOf('day', 1, 'review')]);
    expect(keepingOf($nearer, new KeptDocument(values: ['subject' => ['N11'], 'day' => ['2019']]))->dueOn()?->iso())->toBe('2020-12-31');
});

test('of several rules the longest is in force and says so', function () {
    $design = keptDesign(['N1' => ruleOf('day', 7), 'H' => ruleOf('day', 9)], ruleOf('day', 8, 'review'), ruleOf('day', 2));
    $kept = keepingOf(
        $design,
        new KeptDocument('contract', ['subject' => ['H1', 'N11'], 'day' => ['2010']], dossiers: [['kind' => 'works', 'closed' => null]]),
    );
    // H1 has two places, so it has the rules of both.
    expect($kept->dueOn()?->iso())->toBe('2019-12-31')
        ->and($kept->rule?->code)->toBe('concept.functions.H')
        ->and(count($kept->outcomes))->toBe(4)
        ->and($kept->reason)->toEndWith('; the longest of 4 rules');
    $forGood = keptDesign(['N' => ruleOf('day', 0, 'keep')], ruleOf('day', 8));
    expect(keepingOf($forGood, new KeptDocument('contract', ['subject' => ['N'], 'day' => ['2010']]))->state)->toBe(KeepingState::Permanent);
});

test('of two that are equally long the one that takes less away is in force', function () {
    $design = keptDesign(['N' => ruleOf('day', 7)], ruleOf('day', 7, 'review'));
    expect(keepingOf($design, new KeptDocument('contract', ['subject' => ['N'], 'day' => ['2010']]))->action())->toBe(RetentionAction::Review);
});

test('a date that is missing is a state of its own, and keeps the document from falling due by a shorter rule', function () {
    $design = keptDesign(['N' => ruleOf('day', 7)], ruleOf('created', 1));
    $kept = keepingOf($design, new KeptDocument('contract', ['subject' => ['N']], filed: '2001-01-01'));
    expect($kept->state)->toBe(KeepingState::NoDate)->and($kept->due)->toBeNull()
        ->and($kept->reason)->toContain('without Document date');
    expect(keepingOf($design, new KeptDocument('contract', [], filed: '2001-01-01'))->dueOn()?->iso())->toBe('2002-01-01');
    expect(keepingOf($design, new KeptDocument('contract', ['subject' => ['N'], 'day' => ['not a date']]))->state)->toBe(KeepingState::NoDate);
    expect(keepingOf($design, new KeptDocument('note'))->state)->toBe(KeepingState::NoRule);
});

test('what a period is counted from', function (array $rule, KeptDocument $document, KeepingState $state, ?string $due) {
    $kept = keepingOf(keptDesign([], $rule), $document);
    expect($kept->state)->toBe($state)->and($kept->dueOn()?->iso())->toBe($due);
})->with([
    'filing' => [ruleOf('created', 2), new KeptDocument('contract', filed: '2019-03-14'), KeepingState::Dated, '2021-03-14'],
    'the last day of a stretch' => [
        ruleOf('term', 2),
        new KeptDocument('contract', ['term' => ['2015-01-01/2019-03']]),
        KeepingState::Dated,
        '2021-03-31',
    ],
    'the latest of several' => [
        ruleOf('renewed', 2),
        new KeptDocument('contract', ['renewed' => ['2015', '2019-03-14', '2001']]),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'an open dossier' => [
        ruleOf('dossier_closed', 2),
        new KeptDocument('contract', dossiers: [['kind' => 'works', 'closed' => '2019-03-14'], ['kind' => 'other', 'closed' => null]]),
        KeepingState::Waiting,
        null,
    ],
    'a closed dossier of its kind' => [
        ruleOf('dossier_closed', 2, 'destroy', ['of' => 'works']),
        new KeptDocument('contract', dossiers: [['kind' => 'works', 'closed' => '2019-03-14'], ['kind' => 'other', 'closed' => null]]),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'no dossier' => [ruleOf('dossier_closed', 2), new KeptDocument('contract'), KeepingState::NoDate, null],
    'a procedure that goes on' => [
        ruleOf('procedure_ended', 2, 'destroy', ['of' => 'check']),
        new KeptDocument('contract', procedures: ['check' => ['2019-03-14', null]]),
        KeepingState::Waiting,
        null,
    ],
    'a procedure that ended' => [
        ruleOf('procedure_ended', 2, 'destroy', ['of' => 'check']),
        new KeptDocument('contract', procedures: ['check' => ['2019-03-14', '2018-01-01'], 'other' => [null]]),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'not superseded' => [ruleOf('superseded', 2, 'destroy', ['of' => 'replaces']), new KeptDocument('contract'), KeepingState::Waiting, null],
    'superseded' => [
        ruleOf('superseded', 2, 'destroy', ['of' => 'replaces']),
        new KeptDocument('contract', superseded: ['replaces' => '2019-03-14']),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'begun anew by a later date' => [
        ruleOf('day', 2, 'destroy', ['restarts' => ['renewed']]),
        new KeptDocument('contract', ['day' => ['2010'], 'renewed' => ['2019-03-14']]),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'begun anew by hand, without the date of the rule' => [
        ruleOf('day', 2),
        new KeptDocument('contract', restarted: '2019-03-14'),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'an earlier beginning changes nothing' => [
        ruleOf('day', 2),
        new KeptDocument('contract', ['day' => ['2019-03-14']], restarted: '2011-01-01'),
        KeepingState::Dated,
        '2021-03-14',
    ],
    'postponed' => [
        ruleOf('day', 2),
        new KeptDocument('contract', ['day' => ['2010']], postponed: '2030-01-01'),
        KeepingState::Dated,
        '2030-01-01',
    ],
    'postponed to a day before it is due' => [
        ruleOf('day', 2),
        new KeptDocument('contract', ['day' => ['2010-01-01']], postponed: '2011-01-01'),
        KeepingState::Dated,
        '2012-01-01',
    ],
    'lifted by a value' => [
        ruleOf('day', 2, 'destroy', ['lifted_by' => ['field' => 'dispute', 'values' => []]]),
        new KeptDocument('contract', ['day' => ['2010'], 'dispute' => ['yes']]),
        KeepingState::Lifted,
        null,
    ],
    'not lifted by another' => [
        ruleOf('day', 2, 'destroy', ['lifted_by' => ['field' => 'dispute', 'values' => ['yes']]]),
        new KeptDocument('contract', ['day' => ['2010-01-01'], 'dispute' => ['no']]),
        KeepingState::Dated,
        '2012-01-01',
    ],
    'exempt by decision' => [
        ruleOf('day', 2),
        new KeptDocument('contract', ['day' => ['2010']], exempt: 'An anniversary'),
        KeepingState::Lifted,
        null,
    ],
    'destroyed' => [ruleOf('day', 2), new KeptDocument('contract', ['day' => ['2010']], isDestroyed: true), KeepingState::Destroyed, null],
]);

test('the longest of rules made by chance is what a plain reading of them says', function () {
    mt_srand(11);
    $actions = ['review', 'destroy', 'hand_over'];
    for ($i = 0; $i < 400; $i++) {
        $rules = [];
        foreach (['N', 'N1', 'N11', 'H', 'H1'] as $code) {
            if (mt_rand(0, 1) === 1) {
                $rules[$code] = ruleOf(mt_rand(0, 2) === 0 ? 'created' : 'day', mt_rand(0, 30), $actions[mt_rand(0, 2)]);
            }
        }
        $type = mt_rand(0, 1) === 1 ? ruleOf('day', mt_rand(0, 30), $actions[mt_rand(0, 2)]) : null;
        $values = ['subject' => array_values(array_unique([['N', 'N1', 'N11', 'H', 'H1'][mt_rand(0, 4)], ['N11', 'H1'][mt_rand(0, 1)]]))];
        $day = mt_rand(0, 3) === 0 ? null : sprintf('%04d-06-15', mt_rand(1950, 2020));
        if ($day !== null) {
            $values['day'] = [$day];
        }
        $kept = keepingOf(keptDesign($rules, $type), new KeptDocument('contract', $values, '2005-05-05'));

        // Read once more, without anything of the code: all paths upwards, each until its first rule.
        $above = ['N' => [], 'N1' => ['N'], 'N11' => ['N1'], 'H' => [], 'H1' => ['H', 'N1']];
        $climb = static function (string $code) use (&$climb, $above, $rules): array {
            return isset($rules[$code]) ? [$rules[$code]] : array_merge([], ...array_map($climb, $above[$code]));
        };
        $all = array_merge($type === null ? [] : [$type], ...array_map($climb, $values['subject']));
        $dates = array_map(static function (array $rule) use ($day): ?string {
            $from = $rule['after'] === 'created' ? '2005-05-05' : $day;

            return $from === null ? null : ((int) substr($from, 0, 4) + $rule['years']).substr($from, 4);
        }, $all);
        $state = match (true) {
            $all === [] => KeepingState::NoRule,
            in_array(null, $dates, true) => KeepingState::NoDate,
            default => KeepingState::Dated,
        };
        expect($kept->state)->toBe($state)->and($kept->dueOn()?->iso())->toBe($state === KeepingState::Dated ? max($dates) : null);
    }
});

test('a design says what is wrong with its rules', function (array $rule, string $message) {
    $design = keptDesign(['N1' => $rule]);
    $faults = (new DesignCheck($design, SystemFields::of($design)))->faults();
    expect(array_column($faults, 'message'))->toContain($message)->and($faults[0]['kind'])->toBe('vocabularies');
})->with([
    [ruleOf('nothing', 7), 'A retention rule counts from “nothing”, and there is no such field.'],
    [ruleOf('subject', 7), 'A retention rule counts from Subject, which is not a date.'],
    [ruleOf('superseded', 7), 'Choose the reference field in which a newer document names the one that it supersedes.'],
    [ruleOf('superseded', 7, 'destroy', ['of' => 'day']), 'Document date does not refer to documents.'],
    [ruleOf('dossier_closed', 7, 'destroy', ['of' => 'none']), 'There is no dossier kind “none”.'],
    [ruleOf('day', 7, 'destroy', ['restarts' => ['dispute']]), 'A retention rule counts from In dispute, which is not a date.'],
    [
        ruleOf('day', 0, 'keep', ['lifted_by' => ['field' => 'dispute']]),
        'What is kept permanently cannot be exempt from it: remove the exemption.',
    ],
]);

test('a sound rule is none of the faults, and what it names cannot be removed', function () {
    $design = keptDesign(['N1' => ruleOf('day', 7, 'destroy', ['restarts' => ['renewed'], 'lifted_by' => ['field' => 'dispute']])]);
    $check = new DesignCheck($design, SystemFields::of($design));
    $faults = array_filter($check->faults(), static fn (array $fault): bool => $fault['kind'] === 'vocabularies');
    expect($faults)->toBe([])
        ->and($check->usersOf(DesignKind::Field, 'day'))->toContain('the vocabulary “Functions”')
        ->and($check->usersOf(DesignKind::Field, 'renewed'))->not->toBe([])
        ->and($check->usersOf(DesignKind::Field, 'dispute'))->not->toBe([]);
});

test('a field that is merged into another is replaced in rules too', function () {
    $design = keptDesign(['N1' => ruleOf('day', 7, 'destroy', ['authority' => 'day', 'restarts' => ['day', 'renewed']])]);
    $part = $design->one(VocabularyPart::class, 'functions');
    foreach (FieldMerge::changes($design, array_filter([$part]), 'day', 'renewed') as [$kind, $code, $content]) {
        $design = $design->with($kind, $code, $content);
    }
    $rule = $design->part(DesignKind::Vocabulary, 'functions')['terms'][1]['retention'];
    expect($rule['after'])->toBe('renewed')->and($rule['restarts'])->toBe(['renewed', 'renewed'])->and($rule['authority'])->toBe('day');
});

test('the fields of the system offer the states, actions and rules there are', function () {
    $fields = SystemFields::of(keptDesign(['N1' => ruleOf('day', 1)], ruleOf('created', 0, 'keep')));
    expect(array_keys($fields['retention_rule']->vocabulary->terms))->toBe(['concept.functions.N1', 'type.contract'])
        ->and($fields['retention_rule']->vocabulary->label('concept.functions.N1'))
        ->toBe('Concept N1 Concept N1: 1 year after Document date')
        ->and($fields['retention_rule']->vocabulary->label('type.contract'))->toBe('Type Contract: kept permanently')
        ->and(array_keys($fields['retention']->vocabulary->terms))->toContain('no_date', 'destroyed')
        ->and($fields['retention_due']->kind->isDate())->toBeTrue();
});

test('the effect of a change is told in documents', function () {
    $documents = [
        1 => new KeptDocument('contract', ['subject' => ['N11'], 'day' => ['2019-03-14']]),
        2 => new KeptDocument('contract', ['subject' => ['N1'], 'day' => ['2030']]),
        3 => new KeptDocument('contract', ['subject' => ['N1']]),
        4 => new KeptDocument('contract', ['subject' => ['N'], 'day' => ['2019']]),
        5 => new KeptDocument('contract', ['subject' => ['H'], 'day' => ['2019']]),
    ];
    $tried = static fn (Design $old, Design $new): array => array_map(
        static fn (EffectCount $count): array => [$count->what, $count->set?->documents()],
        (new RetentionEffect(
            $old,
            $new,
            new class($documents) implements KeptDocuments
            {
                public function __construct(private array $documents)
                {
                }

                public function facts(DocumentSet $documents, array $rules): iterable
                {
                    return array_intersect_key($this->documents, array_flip($documents->documents()));
                }

                public function rules(Design $design): Rules
                {
                    return RetentionOfDesign::rules($design);
                }

                public function quarterEnd(): int
                {
                    return Quarter::with(new DateTimeImmutable('2026-11-30'))->lastDay;
                }
            },
            static fn (): DocumentSet => DocumentSet::of([1, 2, 3, 4, 5]),
            static fn (): DocumentSet => DocumentSet::none(),
        ))->of(DesignChange::between($old, $new)[0]),
    );
    $before = keptDesign(['N1' => ruleOf('day', 20), 'N' => ruleOf('day', 1)]);
    expect($tried($before, keptDesign(['N1' => ruleOf('day', 5), 'N' => ruleOf('day', 1)])))->toBe([
        ['due this quarter, or already', [1]],
        ['kept for a shorter time', [2]],
    ]);
    expect($tried(keptDesign(['N' => ruleOf('day', 1)]), $before))->toBe([
        ['no longer due this quarter', [1]],
        ['kept for a longer time', [2]],
    ]);
    expect($tried($before, keptDesign(['N1' => ruleOf('created', 20, 'keep'), 'N' => ruleOf('day', 1)])))->toBe([
        ['kept permanently', [1, 2, 3]],
    ]);
    expect($tried($before, keptDesign(['N1' => ruleOf('day', 20, 'destroy', ['authority' => 'A law']), 'N' => ruleOf('day', 1)])))->toBe([]);
});

test('a change of nothing but rules is known as such, and what reads them is touched', function () {
    $before = keptDesign(['N1' => ruleOf('day', 20)], ruleOf('day', 5));
    $rules = DesignChange::between($before, keptDesign(['N1' => ruleOf('day', 5)], ruleOf('day', 6), ruleOf('created', 1)));
    expect(Touched::isOnlyRetention($rules))->toBeTrue()
        ->and(Touched::by($rules, $before)->fields)->toBe(['subject'])
        ->and(Touched::by($rules, $before)->types)->toBe(['contract'])
        ->and(Touched::by($rules, $before)->dossierKinds)->toBe(['works']);
    $content = $before->part(DesignKind::Type, 'contract') ?? [];
    $more = DesignChange::between($before, $before->with(DesignKind::Type, 'contract', [...$content, 'name' => 'Agreement', 'retention' => null]));
    expect(Touched::isOnlyRetention($more))->toBeFalse()
        ->and(Touched::isOnlyRetention(DesignChange::between($before, $before->with(DesignKind::Type, 'new', ['name' => 'New']))))->toBeFalse()
        ->and(Touched::isOnlyRetention([]))->toBeFalse();
});

test('quarters are those of the calendar', function () {
    $last = Quarter::with(new DateTimeImmutable('2026-12-01'));
    expect($last->code())->toBe('2026-Q4')->and($last->words())->toBe('Oct to Dec 2026')
        ->and(PartialDate::ofDay($last->firstDay)->iso())->toBe('2026-10-01')
        ->and(PartialDate::ofDay($last->lastDay)->iso())->toBe('2026-12-31')
        ->and($last->next()->code())->toBe('2027-Q1')
        ->and(PartialDate::ofDay($last->next()->lastDay)->iso())->toBe('2027-03-31');
});
