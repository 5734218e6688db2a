<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Facets\FacetScope;
use Brenvic\Core\Fields\CheckCharacter;
use Brenvic\Core\Fields\Duration;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\Kinds\DurationKind;
use Brenvic\Core\Fields\Kinds\FieldKinds;
use Brenvic\Core\Fields\Kinds\WebAddressKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Answer\Evaluator;
use Brenvic\Core\Search\Asking\AskedFor;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Relation;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Brenvic\Core\Search\Values\Group;
use Brenvic\Core\Search\Values\Grouping;
use Brenvic\Core\Search\Values\ValueTest;

/** Values of each kind as people write them, in their order where they have one: what a new kind has to give. */
const WRITTEN = [
    'text' => ['Gate survey', 'Sill', 'Weir 7'],
    'long_text' => ["Silt over\nthe sill", 'The gate leaks'],
    'choice' => ['North', 'n1', 'South'],
    'number' => ['-3', '0.5 m', '1250'],
    'amount' => ['£0.50', '12', 'GBP 1250.75'],
    'date' => ['1998', 'Mar 2019', '14 Apr 2019'],
    'date_range' => ['1998 to 2001', 'Mar 2019 to May 2019', '14 Apr 2020'],
    'yes_no' => ['yes', 'no'],
    'identifier' => ['LK-0407', 'lk-0417'],
    'person' => ['Ada Lorne', 'Osric  Vane'],
    'reference' => ['D-00042-X', 'd-00043-V'],
    'duration' => ['0 min', '90 minutes', '2 h 30 min', '1:00:00', '3 days', '2 months', 'P1Y6M'],
    'web_address' => ['tarnwick.example/locks', 'https://survey.example/a?b=c', 'http://intranet'],
];

function ofKind(FieldKind $kind): FieldDefinition
{
    $reach = new Vocabulary('reach', [
        new VocabularyTerm('n', 'North'),
        new VocabularyTerm('n1', 'North basin', 'n'),
        new VocabularyTerm('s', 'South'),
    ]);

    return new FieldDefinition(
        'f',
        'Field',
        $kind,
        faceted: $kind->mayBeFaceted(),
        vocabulary: $kind->isChosen() ? $reach : null,
        unit: ['number' => 'm', 'amount' => 'GBP'][$kind->value] ?? '',
    );
}

/** @return list<string> normal forms */
function normalsOf(FieldDefinition $field): array
{
    $written = WRITTEN[$field->kind->value];
    if ($field->kind->value === 'reference') {
        $written = array_map(
            static fn (string $ref): string => substr($ref, 0, -1).CheckCharacter::for(strtoupper(substr($ref, 0, -2))),
            $written,
        );
    }

    return array_map(static fn (string $text): string => (string) $field->parse($text), $written);
}

dataset('kinds', static fn (): array => array_map(static fn (FieldKind $kind): array => [$kind], FieldKinds::all()));

it('has a normal form that is read as itself, from how it is shown too', function (FieldKind $kind) {
    $field = ofKind($kind);
    foreach (normalsOf($field) as $normal) {
        expect($field->parse($normal))
            ->toBe($normal)
            ->and($field->parse($field->display($normal)))
            ->toBe($normal);
        foreach ($kind->formats() as $format => $label) {
            expect($kind->formatted($field, $normal, $format))->not->toBe('')->and($label)->not->toBe('');
        }
    }
    expect($field->parse(" \t"))
        ->toBeNull()
        ->and(FieldKinds::find($kind->value))
        ->toBe($kind);
})->with('kinds');

it('has places on the line where it is ordered, in the order of the values, and none where it is not', function (FieldKind $kind) {
    $field = ofKind($kind);
    $before = PHP_INT_MIN;
    foreach (normalsOf($field) as $normal) {
        $place = $field->ordinal($normal);
        if (! $kind->isOrdered()) {
            expect($place)->toBeNull();

            continue;
        }
        expect($place)
            ->toBeInt()
            ->and($kind->lastOrdinal($field, $normal))
            ->toBeGreaterThanOrEqual($place)
            ->and($field->ordinal($kind->ofOrdinal((int) $place)))
            ->toBe($place);
        if ($kind->value !== 'duration' || $normal !== 'PT1H') {
            expect($place)->toBeGreaterThan($before);
            $before = $place;
        }
    }
})->with('kinds');

it('finds by every relation it offers just the documents whose values the test of one value lets through', function (FieldKind $kind) {
    $field = ofKind($kind);
    $normals = normalsOf($field);
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $writer->put(
        array_map(
            static fn (string $normal, int $i) => DocumentEntries::of(
                new FiledDocument($i + 1, 'Survey', values: ['f' => [$normal]]),
                ['f' => $field],
            ),
            $normals,
            array_keys($normals),
        ),
    );
    $writer->flush();
    $schema = new SearchSchema([$field]);
    $reader = new IndexReader($store);
    $test = new ValueTest($schema);
    $evaluator = new Evaluator($reader, $schema, $reader->all());
    foreach (Criterion::relations($kind, $field->isTree()) as $relation) {
        foreach (WRITTEN[$kind->value] as $i => $written) {
            $given = match ($relation) {
                Relation::IsEmpty, Relation::IsFilled => [],
                Relation::Between => $kind->isStretch() ? ['2000', '2019'] : [$written, WRITTEN[$kind->value][0]],
                Relation::Contains, Relation::BeginsWith => [substr($field->display($normals[$i]), 0, $kind->value === 'reference' ? 7 : 3)],
                default => [$kind->isStretch() ? substr($normals[$i], 0, 4) : ($kind->value === 'reference' ? $normals[$i] : $written)],
            };
            $node = Criterion::of($field, $relation, $given);
            $found = $evaluator->evaluate($node)->documents();
            $named = "{$kind->value} {$relation->value} ".Printer::node($node);
            expect(Criterion::describe($node, $schema)['subject'])->toBe('Field');
            $form = AskedFor::from($node, $schema);
            expect($form?->relation)->toBe($relation->value, $named)->and(Criterion::of($field, $relation, $form->values))->toEqual($node);
            if (! $node instanceof SearchClause || in_array($relation, [Relation::IsNot, Relation::Contains, Relation::BeginsWith], true)) {
                $is = array_values(array_filter(array_keys($normals), static fn (int $n): bool => in_array($n + 1, $found, true)));
                expect(in_array($i, $is, true))->toBe($relation !== Relation::IsNot, $named);
            } elseif ($relation === Relation::IsFilled || $relation === Relation::IsEmpty) {
                expect($found)->toBe($relation === Relation::IsFilled ? range(1, count($normals)) : [], $named);
            } else {
                $fits = array_keys(array_filter($normals, static fn (string $normal): bool => $test->fits($field, $node, $normal)));
                expect($found)->toBe(array_map(static fn (int $n): int => $n + 1, $fits), $named);
            }
        }
    }
    $groups = (new Grouping($reader))->of($reader->all(), $field);
    if ($kind->mayBeFaceted()) {
        $all = $reader->all();
        $counted = (new FacetCounter($reader))->count($field, new FacetScope($all, $all, ''), new FacetRequest('f'), [], []);
        expect(count($counted->values) + count($counted->ranges))->toBeGreaterThan(0);
        $inGroups = array_unique(array_merge([], ...array_map(static fn (Group $g): array => $evaluator->evaluate($g->node)->documents(), $groups)));
        sort($inGroups);
        expect($inGroups)->toBe(range(1, count($normals)));
    }
})->with('kinds');

it('reads durations as another reader of ISO 8601 does, and by their lengths', function () {
    $field = ofKind(new DurationKind);
    $seed = seeded(41);
    for ($round = 0; $round < 500; $round++) {
        $sizes = ['year' => mt_rand(0, 3), 'month' => mt_rand(0, 20), 'days' => mt_rand(0, 40), 'h' => mt_rand(0, 30), 'minutes' => mt_rand(0, 90)];
        $given = array_filter($sizes, static fn (int $count): bool => $count > 0 && mt_rand(0, 1) === 1);
        if ($given === []) {
            continue;
        }
        $text = implode(' ', array_map(static fn (string $unit, int $count): string => "{$count} {$unit}", array_keys($given), $given));
        $normal = (string) $field->parse($text);
        $start = new DateTimeImmutable('2001-01-01 UTC');
        // PHP reads the normal form; the sum is made by hand, months first, as XML Schema adds durations to a date.
        $months = ($given['year'] ?? 0) * 12 + ($given['month'] ?? 0);
        $seconds = ($given['days'] ?? 0) * 86_400 + ($given['h'] ?? 0) * 3600 + ($given['minutes'] ?? 0) * 60;
        expect($start->add(new DateInterval($normal)))
            ->toEqual($start->modify("+{$months} months")->modify("+{$seconds} seconds"), "seed {$seed}: {$text}")
            ->and(Duration::parse($normal)->length())
            ->toBe($months * 2_629_746 + $seconds);
    }
    expect($field->parse('0.5 years'))
        ->toBe('P6M')
        ->and($field->parse('PT60M'))
        ->toBe('PT1H')
        ->and($field->displayRange('PT30M', 'PT2H'))
        ->toBe('30 min to 2 h');
});

it('reads durations as a clock shows them, and in weeks', function () {
    $seed = seeded(43);
    for ($round = 0; $round < 300; $round++) {
        [$hours, $minutes, $seconds] = [mt_rand(0, 9999), mt_rand(0, 59), mt_rand(0, 59)];
        expect(Duration::parse(sprintf('%d:%02d:%02d', $hours, $minutes, $seconds))->length())
            ->toBe($hours * 3600 + $minutes * 60 + $seconds, "seed {$seed}")
            ->and(Duration::parse(sprintf(' %d:%02d ', $hours, $minutes))->length())
            ->toBe($hours * 3600 + $minutes * 60);
    }
    $written = ['1 w' => 604_800, 'P2W' => 1_209_600, '3 weeks and 1 hr' => 1_818_000, '2,5 mins, 5 secs' => 155, 'PT1H1M1S' => 3661];
    foreach ($written as $text => $length) {
        expect(Duration::parse($text)->length())->toBe($length);
    }
    // Ten thousand years are the most.
    expect(Duration::parse('10000 years')->months)
        ->toBe(120_000)
        ->and(Duration::parse('3660000 days')->iso())
        ->toBe('P3660000D')
        ->and(fn () => Duration::parse('3660001 days'))
        ->toThrow(InvalidValue::class, 'longer than ten thousand years')
        ->and(fn () => Duration::parse('120001 months'))
        ->toThrow(InvalidValue::class, 'longer than ten thousand years');
});

it('refuses what is no duration', function (string $written) {
    expect(fn () => ofKind(new DurationKind)->parse($written))->toThrow(InvalidValue::class);
})->with(['5', '2h30', 'P', 'PT', 'P1Y2W', '-3 d', '0.5 month', '1:75', '1 fortnight', 'PT999999999H', '20000 years']);

it('writes web addresses alike, and takes none that a link should not have', function () {
    $field = ofKind(new WebAddressKind);
    expect($field->parse('WWW.Tarnwick.example/Locks'))
        ->toBe('https://www.tarnwick.example/Locks')
        ->and($field->parse('https://münchen.example/straße'))
        ->toBe('https://xn--mnchen-3ya.example/stra%C3%9Fe')
        ->and($field->display('https://xn--mnchen-3ya.example/stra%C3%9Fe'))
        ->toBe('https://münchen.example/straße')
        ->and($field->display('https://x.example/a%E2%80%AEb'))
        ->toBe('https://x.example/a%E2%80%AEb');
    foreach (['javascript:alert(1)', 'data:text/html,x', 'ftp://x.example', 'https://a@b.example/', 'word', 'https://x.example:99999', 'a b.example'] as $no) {
        expect(fn () => $field->parse($no))->toThrow(InvalidValue::class);
    }
});
