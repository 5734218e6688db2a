<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DesignMerge;
use Brenvic\Core\Design\DesignRight;
use Brenvic\Core\Design\FieldMerge;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Design\Part;
use Brenvic\Core\Design\Restoration;
use Brenvic\Core\Design\SystemFields;
use Brenvic\Core\Design\TitlePattern;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Design\ValueChange;
use Brenvic\Core\Fields\InvalidDefinition;

function smallDesign(): Design
{
    return (new Design())
        ->with(DesignKind::Repository, 'ops', ['name' => 'Operations'])
        ->with(DesignKind::Vocabulary, 'grade', [
            'name' => 'Grades',
            'terms' => [
                ['code' => 'a', 'label' => 'Good', 'parent' => null, 'synonyms' => ['Fine']],
                ['code' => 'b', 'label' => 'Poor', 'parent' => 'a'],
            ],
        ])
        ->with(DesignKind::Field, 'grade', ['label' => 'Grade', 'kind' => 'choice', 'vocabulary' => 'grade', 'faceted' => true])
        ->with(DesignKind::Field, 'depth', ['label' => 'Depth', 'kind' => 'number', 'unit' => 'm'])
        ->with(DesignKind::Type, 'survey', [
            'name' => 'Survey',
            'title_pattern' => 'Survey {grade}',
            'fields' => [['code' => 'grade', 'required' => true]],
        ])
        ->with(DesignKind::Library, 'canal', ['name' => 'Canal', 'repository' => 'ops', 'types' => ['survey'], 'note' => ''])
        ->with(DesignKind::View, 'all', [
            'name' => 'All',
            'criterion' => 'grade == a and depth > 1',
            'columns' => ['grade', 'title'],
            'sort' => [],
            'levels' => [['field' => 'grade', 'total' => 'depth']],
        ]);
}

it('makes one design of another by the changes between them', function () {
    seeded(51);
    $parts = [];
    foreach (DesignKind::cases() as $kind) {
        foreach (smallDesign()->all($kind) as $code => $content) {
            $parts[] = [$kind, (string) $code, $content];
        }
    }
    $random = static function () use ($parts): Design {
        $design = new Design();
        foreach ($parts as [$kind, $code, $content]) {
            mt_rand(0, 3) > 0 &&
                ($design = $design->with($kind, $code, mt_rand(0, 1) === 0 ? $content : [...$content, 'name' => 'N'.mt_rand(0, 2)]));
        }

        return $design;
    };
    for ($i = 0; $i < 300; $i++) {
        [$a, $b] = [$random(), $random()];
        $changes = DesignChange::between($a, $b);
        $made = $a;
        foreach ($changes as $change) {
            expect($made->part($change->kind, $change->code))->toBe($change->before);
            $made = $made->with($change->kind, $change->code, $change->after);
        }
        expect(DesignChange::between($made, $b))->toBe([])->and(DesignChange::between($a, $a))->toBe([]);
        // What comes stands behind what it may refer to, what goes before it.
        $places = array_map(
            static fn (DesignChange $c): int => (int) array_search($c->kind, DesignKind::cases(), true) * ($c->after === null ? -1 : 1),
            $changes,
        );
        $come = array_filter($places, static fn (int $p, int $i): bool => $changes[$i]->after !== null, ARRAY_FILTER_USE_BOTH);
        $sorted = $come;
        sort($sorted);
        expect(array_values($come))->toBe($sorted);
    }
});

it('tells changes in the words that differ', function () {
    $old = [
        'name' => 'Grades',
        'terms' => [['code' => 'a', 'label' => 'Good', 'parent' => null], ['code' => 'b', 'label' => 'Poor', 'parent' => 'a']],
    ];
    $new = [
        'terms' => [['label' => 'Good', 'code' => 'a', 'parent' => null], ['code' => 'b', 'label' => 'Bad', 'parent' => 'a']],
        'name' => 'Grades',
    ];
    expect((new DesignChange(DesignKind::Vocabulary, 'grade', $old, $new))->properties())
        ->toBe([['property' => 'Poor', 'before' => 'Poor', 'after' => 'Bad']])
        ->and(Design::same(['maximum' => 3.0], ['maximum' => 3]))
        ->toBeTrue()
        ->and(Design::same(['label' => '1000'], ['label' => '1e3']))
        ->toBeFalse();
});

it('finds no fault in what fits, and names the property of what does not', function (
    DesignKind $kind,
    string $code,
    array $change,
    string $property,
) {
    $design = smallDesign();
    expect((new DesignCheck($design, []))->faults())->toBe([]);
    $wrong = $design->with($kind, $code, [...$design->part($kind, $code), ...$change]);
    try {
        (new DesignCheck($wrong, []))->part($kind, $code);
        $this->fail('accepted');
    } catch (InvalidDefinition $fault) {
        expect($fault->property)->toBe($property);
    }
    expect(array_column((new DesignCheck($wrong, []))->faults(), 'property'))->toContain($property);
})->with([
    [DesignKind::Field, 'grade', ['vocabulary' => 'none'], 'vocabulary'],
    [DesignKind::Field, 'depth', ['minimum' => 3, 'maximum' => 1], 'maximum'],
    [DesignKind::Vocabulary, 'grade', ['terms' => [['code' => 'a', 'label' => 'A', 'parent' => 'a']]], 'terms'],
    [DesignKind::Type, 'survey', ['fields' => [['code' => 'nothing']]], 'fields'],
    [DesignKind::Type, 'survey', ['title_pattern' => '{depth}'], 'title_pattern'],
    [DesignKind::Library, 'canal', ['repository' => 'none'], 'repository'],
    [DesignKind::Library, 'canal', ['types' => ['none']], 'types'],
    [DesignKind::View, 'all', ['columns' => ['none']], 'columns'],
    [DesignKind::View, 'all', ['levels' => [['field' => 'none']]], 'levels'],
    [DesignKind::View, 'all', ['levels' => [['field' => 'grade', 'total' => 'grade']]], 'levels'],
    [DesignKind::View, 'all', ['criterion' => 'depth > 1 and (grade == a or dept < 2)'], 'criterion'],
    [DesignKind::View, 'all', ['criterion' => '(grade'], 'criterion'],
]);

it('knows what refers to a part', function () {
    $check = new DesignCheck(smallDesign(), []);
    expect($check->usersOf(DesignKind::Field, 'grade'))
        ->toBe(['the document type “Survey”', 'the view “All”'])
        ->and($check->usersOf(DesignKind::Vocabulary, 'grade'))
        ->toBe(['the field “Grade”'])
        ->and($check->usersOf(DesignKind::Repository, 'ops'))
        ->toBe(['the library “Canal”'])
        ->and($check->usersOf(DesignKind::View, 'all'))
        ->toBe([]);
});

it('fills in a term by its label and its other names', function () {
    $field = smallDesign()->field('grade');
    expect([$field->parse('good'), $field->parse('FINE'), $field->parse('b')])->toBe(['a', 'a', 'b']);
});

it('reads sheets by what their type says: defaults, read-only, retired and dependent terms, a branch of a tree', function () {
    $terms = static fn (array ...$terms): array => ['name' => 'V', 'terms' => $terms];
    $design = smallDesign()
        ->with(DesignKind::Vocabulary, 'reach', $terms(['code' => 'up', 'label' => 'Upper'], ['code' => 'low', 'label' => 'Lower']))
        ->with(DesignKind::Vocabulary, 'bank', [
            ...$terms(
                ['code' => 'n', 'label' => 'North', 'under' => ['up']],
                [
                    'code' => 's',
                    'label' => 'South',
                    'under' => ['low'],
                ],
                ['code' => 'x', 'label' => 'Both'],
            ),
            'depends_on' => 'reach',
        ])
        ->with(
            DesignKind::Vocabulary,
            'place',
            $terms(
                ['code' => 'a', 'label' => 'A'],
                ['code' => 'a1', 'label' => 'A1', 'parent' => 'a'],
                ['code' => 'b', 'label' => 'B'],
                [
                    'code' => 'old',
                    'label' => 'Old',
                    'parent' => 'a',
                    'retired' => true,
                    'replaced_by' => 'a1',
                ],
            ),
        )
        ->with(DesignKind::Field, 'reach', ['label' => 'Reach', 'kind' => 'choice', 'vocabulary' => 'reach'])
        ->with(DesignKind::Field, 'bank', ['label' => 'Bank', 'kind' => 'choice', 'vocabulary' => 'bank'])
        ->with(DesignKind::Field, 'place', ['label' => 'Place', 'kind' => 'choice', 'vocabulary' => 'place'])
        ->with(DesignKind::Field, 'note', ['label' => 'Note', 'kind' => 'text', 'default' => 'none']);
    $sheet = IndexSheet::of(
        TypePart::of('t', [
            'fields' => [
                ['code' => 'reach'],
                ['code' => 'bank'],
                ['code' => 'place', 'below' => 'a'],
                ['code' => 'note', 'read_only' => true],
                ['code' => 'gone'],
            ],
        ]),
        $design->fields(),
    );
    expect($sheet->defaults)
        ->toBe(['note' => 'none'])
        ->and(
            $sheet->read([
                'reach' => ['up'],
                'bank' => ['North'],
                'place' => ['A1'],
                'note' => ['typed'],
            ])['values'],
        )
        ->toBe(['reach' => ['up'], 'bank' => ['n'], 'place' => ['a1'], 'note' => ['none']])
        ->and($sheet->read(['reach' => ['low'], 'bank' => ['North']])['faults'])
        ->toBe([
            'bank' => '“North” does not go with Reach “Lower”.',
        ])
        ->and($sheet->read(['bank' => ['North']])['faults'])
        ->toBe(['bank' => '“North” does not go with an empty Reach.'])
        ->and($sheet->read(['bank' => ['Both']])['faults'])
        ->toBe([])
        ->and($sheet->read(['place' => ['b']])['faults'])
        ->toBe(['place' => '“B” is not below “A”, where documents of this type belong.'])
        ->and($sheet->read(['place' => ['old']])['faults'])
        ->toBe(['place' => '“Old” is retired. Choose “A1” instead.'])
        // What a document has, it may keep.
        ->and($sheet->read(['place' => ['old']], ['place' => ['old'], 'note' => ['kept']])['values'])
        ->toBe(['place' => ['old'], 'note' => ['kept']]);
});

it('finds faults in each of the other parts', function (DesignKind $kind, array $content, string $property) {
    $design = smallDesign()->with($kind, 'part', $content);
    expect(fn () => (new DesignCheck($design, [], ['Everyone']))->part($kind, 'part'))
        ->toThrow(InvalidDefinition::class)
        ->and(array_column((new DesignCheck($design, [], ['Everyone']))->faults(), 'property'))
        ->toContain($property);
})->with([
    [DesignKind::Table, ['key' => 'none', 'fills' => []], 'key'],
    [DesignKind::Table, ['key' => 'depth', 'fills' => ['depth']], 'fills'],
    [DesignKind::Table, ['key' => 'depth', 'fills' => ['grade'], 'rows' => [['1']]], 'rows'],
    [DesignKind::Table, ['key' => 'depth', 'fills' => ['grade'], 'source' => 'outside', 'columns' => ['a']], 'columns'],
    [DesignKind::DossierKind, ['fields' => [['code' => 'none']]], 'fields'],
    [DesignKind::DossierKind, ['fields' => [], 'title_pattern' => '{depth}'], 'title_pattern'],
    [DesignKind::DossierKind, ['fields' => [], 'sections' => [['code' => 'a', 'name' => 'A'], ['code' => 'a', 'name' => 'B']]], 'sections'],
    [DesignKind::DossierKind, ['fields' => [], 'view' => 'none'], 'view'],
    [DesignKind::Form, ['fields' => [['code' => 'grade']], 'libraries' => ['none']], 'libraries'],
    [DesignKind::Access, ['criterion' => 'nothing == 1'], 'criterion'],
    [DesignKind::Access, ['criterion' => 'grade == a', 'groups' => ['Nobody']], 'groups'],
    [DesignKind::Library, ['repository' => 'ops', 'types' => [], 'groups' => [['group' => 'Nobody']]], 'groups'],
    [DesignKind::View, ['columns' => ['grade'], 'criterion' => '', 'groups' => ['Nobody']], 'groups'],
    [DesignKind::Type, ['fields' => [['code' => 'depth', 'default' => 'deep']]], 'fields'],
    [DesignKind::Type, ['fields' => [['code' => 'depth', 'required' => true, 'read_only' => true]]], 'fields'],
    [DesignKind::Type, ['fields' => [['code' => 'grade', 'below' => 'z']]], 'fields'],
    [DesignKind::Vocabulary, ['terms' => [], 'depends_on' => 'depth'], 'depends_on'],
    [
        DesignKind::Vocabulary,
        [
            'terms' => [
                ['code' => 'a', 'label' => 'A'],
                ['code' => 'b', 'label' => 'B', 'from' => ['code' => 'a', 'criterion' => 'dept > 1']],
            ],
        ],
        'terms',
    ],
    [DesignKind::Field, ['label' => 'X', 'kind' => 'text', 'formerly' => ['depth']], 'formerly'],
]);

it('keeps parts to the groups that design what they belong to', function () {
    $design = smallDesign()
        ->with(DesignKind::Repository, 'board', ['name' => 'Board', 'designers' => ['Board office']])
        ->with(DesignKind::Type, 'minute', ['name' => 'Minute', 'fields' => [['code' => 'depth'], ['code' => 'signed']]])
        ->with(DesignKind::Type, 'notice', ['name' => 'Notice', 'fields' => [], 'designers' => ['Harbour']])
        ->with(DesignKind::Field, 'signed', ['label' => 'Signed', 'kind' => 'text'])
        ->with(DesignKind::Library, 'papers', [
            'name' => 'Papers',
            'repository' => 'board',
            'types' => ['minute', 'notice'],
            'view' => 'papers',
        ])
        ->with(DesignKind::View, 'papers', ['name' => 'Papers', 'columns' => ['title']])
        ->with(DesignKind::Form, 'desk', [
            'name' => 'Desk',
            'libraries' => ['canal'],
            'types' => ['minute'],
            'fields' => [['code' => 'depth']],
        ])
        ->with(DesignKind::Table, 'signers', ['name' => 'Signers', 'key' => 'grade', 'fills' => ['signed']])
        ->with(DesignKind::Access, 'quiet', ['name' => 'Quiet', 'criterion' => 'grade == a', 'groups' => []]);
    $may = static function (string ...$groups) use ($design): array {
        $right = new DesignRight($design, array_values($groups));
        $may = [];
        foreach (DesignKind::cases() as $kind) {
            foreach (array_keys($design->all($kind)) as $code) {
                $right->keepers($kind, (string) $code) === [] && ($may[] = "{$kind->value}/{$code}");
            }
        }

        return $may;
    };
    $open = ['repositories/ops', 'vocabularies/grade', 'fields/grade', 'types/survey', 'libraries/canal', 'views/all'];
    expect($may('Everyone'))
        ->toBe($open)
        // A type that names its own groups is theirs, whatever library files it.
        ->and($may('Harbour'))
        ->toBe([...array_slice($open, 0, 4), 'types/notice', ...array_slice($open, 4)])
        ->and((new DesignRight($design, ['Harbour']))->keepers(DesignKind::Field, 'depth'))
        ->toBe(['the repository “Board”'])
        ->and((new DesignRight($design, ['Board office']))->kept())
        ->toBe(['the document type “Notice”'])
        ->and(count($may('Board office', 'Harbour')))
        ->toBe(array_sum(array_map(static fn (DesignKind $k): int => count($design->all($k)), DesignKind::cases())))
        ->and((new DesignRight($design, []))->keepers(DesignKind::Field, 'new'))
        ->toBe([]);
});

it('refuses designers among whom nobody designs', function () {
    $design = smallDesign()->with(DesignKind::Library, 'canal', [
        'name' => 'Canal',
        'repository' => 'ops',
        'types' => [],
        'designers' => ['Readers'],
    ]);
    expect((new DesignCheck($design, [], ['Readers', 'Office'], ['Office']))->faults())
        ->toHaveCount(1)
        ->and((new DesignCheck($design, [], ['Readers', 'Office'], ['Readers']))->faults())
        ->toBe([]);
});

/**
 * One change of a document's values as publications make them: rewritten, moved to another field, or put aside.
 *
 * @param  array<string, array<int, string>>  $cells
 */
function publishedChange(array &$cells): ?ValueChange
{
    $field = ['a', 'b', 'c'][mt_rand(0, 2)];
    if (($cells[$field] ?? []) === []) {
        return null;
    }
    $position = array_rand($cells[$field]);
    $value = $cells[$field][$position];
    $into = ['a', 'b', 'c'][mt_rand(0, 2)];
    $new = 'v'.mt_rand(0, 5);
    unset($cells[$field][$position]);
    if (in_array($new, $cells[$into] ?? [], true)) {
        return new ValueChange($field, $position, $value, $into, null, $new);
    }
    $place = $into === $field ? $position : ($cells[$into] ?? [] ? max(array_keys($cells[$into])) + 1 : 0);
    $cells[$into][$place] = $new;

    return new ValueChange($field, $position, $value, $into, $place, $new);
}

it('undoes what publications did to values, and undoes that again', function () {
    seeded(88);
    $flat = static function (array $cells): array {
        $cells = array_filter($cells);
        ksort($cells);
        array_walk($cells, static function (array &$values): void {
            ksort($values);
        });

        return $cells;
    };
    for ($i = 0; $i < 2_000; $i++) {
        $cells = [];
        foreach (['a', 'b', 'c'] as $field) {
            foreach (array_slice(['v0', 'v1', 'v2', 'v3', 'v4', 'v5'], mt_rand(0, 3), mt_rand(0, 3)) as $value) {
                $cells[$field][] = $value;
            }
        }
        $first = $cells;
        $log = [];
        foreach (range(0, mt_rand(0, 6)) as $_) {
            $log[] = publishedChange($cells);
        }
        $log = array_reverse(array_values(array_filter($log)));
        $back = Restoration::of($cells, $log);
        expect($flat($back->cells))
            ->toBe($flat($first))
            ->and($flat(Restoration::of($back->cells, array_reverse($back->steps))->cells))
            ->toBe($flat($cells));
        // What somebody wrote in between is there afterwards as they wrote it.
        $edited = $cells;
        foreach (['a', 'b', 'c'] as $field) {
            if (mt_rand(0, 2) === 0) {
                $edited[$field] = ['typed'];
            }
        }
        foreach ($edited as $field => $values) {
            if ($values === ['typed']) {
                expect(in_array('typed', Restoration::of($edited, $log)->cells[$field], true))->toBeTrue();
            }
        }
    }
});

it('makes titles that read well when a field is empty', function (string $pattern, array $values, ?string $title) {
    $fields = smallDesign()
        ->with(DesignKind::Field, 'place', ['label' => 'Place', 'kind' => 'text'])
        ->with(DesignKind::Field, 'year', ['label' => 'Year', 'kind' => 'text'])
        ->with(DesignKind::Field, 'vessel', ['label' => 'Vessel', 'kind' => 'text'])
        ->fields();
    expect((new TitlePattern($pattern))->title($fields, array_map(static fn (string $v): array => [$v], $values)))->toBe($title);
})->with([
    ['Incident at {place}, {year}', ['place' => 'Quay', 'year' => '2025'], 'Incident at Quay, 2025'],
    ['Incident at {place}, {year}', ['year' => '2025'], 'Incident, 2025'],
    ['Incident at {place}, {year}', ['place' => 'Quay'], 'Incident at Quay'],
    ['Incident at {place}, {year}', [], null],
    ['{place}: survey {year}', ['year' => '2025'], 'survey 2025'],
    ['{place}: survey {year}', ['place' => 'Quay'], 'Quay: survey'],
    ['Permit {place}: {vessel}', ['vessel' => 'Tern'], 'Permit: Tern'],
    ['Permit {place}: {vessel}', ['place' => '12'], 'Permit 12'],
    ['{place}, {vessel}, {year}', ['place' => 'Quay', 'year' => '2025'], 'Quay, 2025'],
    ['{place}, {vessel}, {year}', ['year' => '2025'], '2025'],
    ['Bericht von {vessel} aus {place}', ['place' => 'Kai'], 'Bericht aus Kai'],
    ['{place} by {vessel}', ['place' => 'of'], 'of'],
    ['Lock {place}', ['place' => 'at'], 'Lock at'],
    ['{place} ({vessel})', ['place' => 'Quay'], 'Quay'],
    ['{place}, {vessel} ({year})', ['place' => 'Quay', 'year' => '2025'], 'Quay (2025)'],
    ['Notice “{vessel}”, {year}', ['year' => '2025'], 'Notice, 2025'],
    ['{place}, {vessel} – {year}', ['place' => 'Quay', 'year' => '2025'], 'Quay – 2025'],
    ['{place} – {vessel} – {year}', ['place' => 'Quay', 'year' => '2025'], 'Quay – 2025'],
    ['{place}, {vessel}, {year}, {place}', ['place' => 'Quay'], 'Quay, Quay'],
]);

it('tells what changed in a scheme concept by concept, and nothing of what did not', function () {
    $term = static fn (string $code, string $label, ?string $parent = null, array $more = []): array => [
        'code' => $code,
        'label' => $label,
        'parent' => $parent,
        'notation' => strtoupper($code),
        ...$more,
    ];
    $old = [$term('nav', 'Navigation'), $term('har', 'Harbour'), $term('har1', 'Buoys', 'har'), $term('har2', 'Moorings', 'har'), $term('old', 'Old')];
    $new = [
        $term('nav', 'Navigation'),
        $term('har1', 'Buoys', 'nav', ['synonyms' => []]),
        $term('har', 'Harbours'),
        $term('har2', 'Moorings', 'har', ['retired' => true, 'replaced_by' => 'nav', 'note' => 'Not used.']),
        $term('har3', 'Quays', 'har'),
    ];
    $told = array_map(
        static fn (array $p): string => trim("{$p['property']}: {$p['before']} > {$p['after']}"),
        (new DesignChange(DesignKind::Vocabulary, 'subject', ['terms' => $old], ['terms' => $new]))->properties(),
    );
    expect($told)->toBe([
        'HAR1 Buoys:  > moved under NAV Navigation',
        'HAR Harbour: Harbour > Harbours',
        'HAR2 Moorings, scope note:  > Not used.',
        'HAR2 Moorings:  > retired, replaced by NAV Navigation',
        'HAR3 Quays:  > new under HAR Harbours',
        'OLD Old:  > removed',
    ]);
    $order = (new DesignChange(DesignKind::Vocabulary, 'subject', ['terms' => [$old[0], $old[1]]], ['terms' => [$old[1], $old[0]]]))->properties();
    expect($order)->toBe([['property' => 'order', 'before' => '', 'after' => 'changed']]);
    $many = array_map(static fn (int $i): array => $term("t{$i}", "Term {$i}"), range(1, 60));
    $told = (new DesignChange(DesignKind::Vocabulary, 'subject', ['terms' => []], ['terms' => $many]))->properties();
    expect(end($told))->toBe(['property' => 'and', 'before' => '', 'after' => '35 more changes']);
});

it('joins two designs that began as one, and names what both changed each in its own way', function () {
    seeded(15);
    $codes = range('a', 'f');
    $random = static fn (?array $was): ?array => match (mt_rand(0, 3)) {
        0 => null,
        1 => ['name' => 'Name '.mt_rand(1, 3)],
        default => $was,
    };
    for ($round = 0; $round < 300; $round++) {
        $designs = ['common' => new Design(), 'mine' => new Design(), 'theirs' => new Design()];
        $expected = $collide = [];
        foreach ($codes as $code) {
            $was = mt_rand(0, 2) === 0 ? null : ['name' => 'Name '.mt_rand(1, 3)];
            $parts = ['common' => $was, 'mine' => $random($was), 'theirs' => $random($was)];
            foreach ($parts as $side => $content) {
                $designs[$side] = $content === null ? $designs[$side] : $designs[$side]->with(DesignKind::Repository, $code, $content);
            }
            // What one side left as it was, the other decides; what both made alike is agreed.
            $expected[$code] = $parts['mine'] === $was ? $parts['theirs'] : $parts['mine'];
            if ($parts['mine'] !== $was && $parts['theirs'] !== $was && $parts['mine'] !== $parts['theirs']) {
                $collide[] = $code;
            }
        }
        ['design' => $merged, 'collisions' => $collisions] = DesignMerge::of(...$designs);
        foreach ($codes as $code) {
            expect($merged->part(DesignKind::Repository, $code))->toBe($expected[$code]);
        }
        expect(array_map(static fn (DesignChange $change): string => $change->code, $collisions))->toEqualCanonicalizing($collide);
    }
});

it('gives one field the place of another, wherever a part names it', function () {
    $design = (new Design())
        ->with(DesignKind::Field, 'ship', ['label' => 'Ship', 'kind' => 'text', 'formerly' => ['boat']])
        ->with(DesignKind::Field, 'vessel', ['label' => 'Vessel', 'kind' => 'text'])
        ->with(DesignKind::Type, 'permit', [
            'title_pattern' => 'Permit {ship}',
            'fields' => [['code' => 'ship', 'required' => true], ['code' => 'vessel']],
        ])
        ->with(DesignKind::View, 'permits', [
            'columns' => ['ship', 'vessel', 'berth'],
            'sort' => [['field' => 'ship', 'descending' => true]],
            'levels' => [['field' => 'berth', 'total' => 'ship']],
        ])
        ->with(DesignKind::Table, 'ships', ['key' => 'ship', 'fills' => ['berth']]);
    // Those that name the field are found, and no others.
    $references = (new DesignCheck($design, []))->references(DesignKind::Field, 'ship');
    expect(array_map(static fn (Part $part): string => "{$part::kind()->value}/{$part->code}", $references))->toBe([
        'tables/ships',
        'types/permit',
        'views/permits',
    ]);
    foreach (FieldMerge::changes($design, $references, 'ship', 'vessel') as [$kind, $code, $content]) {
        $design = $design->with($kind, $code, $content);
    }
    expect($design->part(DesignKind::Field, 'ship'))
        ->toBeNull()
        ->and($design->part(DesignKind::Field, 'vessel')['formerly'])
        ->toBe(['boat', 'ship'])
        ->and($design->part(DesignKind::Type, 'permit'))
        ->toBe([
            'title_pattern' => 'Permit {vessel}',
            'fields' => [['code' => 'vessel', 'required' => true]],
        ])
        ->and($design->part(DesignKind::View, 'permits')['columns'])
        ->toBe(['vessel', 'berth'])
        ->and($design->part(DesignKind::View, 'permits')['sort'])
        ->toBe([['field' => 'vessel', 'descending' => true]])
        ->and($design->part(DesignKind::View, 'permits')['levels'])
        ->toBe([['field' => 'berth', 'total' => 'vessel']])
        ->and($design->part(DesignKind::Table, 'ships')['key'])
        ->toBe('vessel');
});

it('offers of repositories only those that are here, libraries in their order, and types by name', function () {
    $design = (new Design())
        ->with(DesignKind::Repository, 'b', ['name' => 'B'])
        ->with(DesignKind::Repository, 'far', ['name' => 'Far', 'address' => 'https://far.example/sru'])
        ->with(DesignKind::Repository, 'a', ['name' => 'A'])
        ->with(DesignKind::Library, 'one', ['name' => 'One', 'repository' => 'a'])
        ->with(DesignKind::Library, 'two', ['name' => 'Two', 'repository' => 'b'])
        ->with(DesignKind::Type, 'y', ['name' => 'Ash'])
        ->with(DesignKind::Type, 'x', ['name' => 'Zinc'])
        ->with(DesignKind::Type, 'z', ['name' => 'Moss']);
    $fields = SystemFields::of($design);
    $codes = static fn (string $field): array => array_map(strval(...), array_keys($fields[$field]->vocabulary->terms));
    expect($codes('repository'))
        ->toBe(['b', 'a'])
        ->and($codes('library'))
        ->toBe(['two', 'one'])
        ->and($codes('type'))
        ->toBe(['y', 'z', 'x'])
        ->and(array_keys($fields))
        ->toContain('attached', 'creator', 'pages', 'ref', 'file_name')
        ->toHaveCount(27);
});
