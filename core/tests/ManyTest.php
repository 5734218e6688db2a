<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetOrder;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Facets\FacetValue;
use Brenvic\Core\Facets\StandingOut;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\DateRangeKind;
use Brenvic\Core\Fields\Kinds\IdentifierKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Answer\SearchAnswer;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Searcher;

/**
 * Enough documents, on both sides of the border of a segment, that sets are counted by columns and bit strings and sorted
 * group by group, and still few enough to look at each.
 */
final class Crowd
{
    private const FIRST = 60_000;

    private const COUNT = 9_000;

    /** Which part of them a word stands in, one in so many. */
    public const WORDS = ['gate' => 1, 'lock' => 2, 'sill' => 9, 'weir' => 90, 'tern' => 900];

    private static ?self $made = null;

    /** @var array<int, array{words: list<string>, vessels: list<string>, grade: ?string, depths: list<string>, dated: ?string, valid: array{string, string}|null}> */
    public array $documents = [];

    public readonly SearchSchema $schema;

    private readonly MemoryStore $store;

    public static function made(): self
    {
        return self::$made ??= new self();
    }

    private function __construct()
    {
        seeded(77);
        $grades = new Vocabulary('grade', [
            new VocabularyTerm('s', 'Sound'),
            new VocabularyTerm('f', 'Fair'),
            new VocabularyTerm('p', 'Poor'),
            new VocabularyTerm('u', 'Unsafe'),
        ]);
        $this->schema = new SearchSchema([
            new FieldDefinition(
                'library',
                'Library',
                new ChoiceKind,
                faceted: true,
                vocabulary: new Vocabulary('library', [new VocabularyTerm('a', 'A')]),
                system: true,
            ),
            new FieldDefinition('vessel', 'Vessel', new TextKind, multiple: true, faceted: true),
            new FieldDefinition('grade', 'Grade', new ChoiceKind, faceted: true, vocabulary: $grades),
            new FieldDefinition('depth', 'Depth', new NumberKind, multiple: true, faceted: true),
            new FieldDefinition('dated', 'Dated', new DateKind, faceted: true),
            new FieldDefinition('valid', 'Valid', new DateRangeKind),
            new FieldDefinition('ref', 'Reference', new IdentifierKind, system: true),
        ]);
        $writer = new IndexWriter(($this->store = new MemoryStore()));
        for ($number = self::FIRST; $number < self::FIRST + self::COUNT; $number++) {
            $words = array_keys(array_filter(self::WORDS, static fn (int $one): bool => mt_rand(1, $one) === 1));
            $this->documents[$number] = [
                'words' => array_merge(...array_map(static fn (string $word): array => array_fill(0, mt_rand(1, 3), $word), $words)),
                // More than one byte can number, and no place for all of them in one column.
                'vessels' => array_values(
                    array_unique(
                        array_map(
                            static fn (): string => 'Vessel '.min(mt_rand(1, 700), mt_rand(1, 700)),
                            array_fill(0, mt_rand(0, 3), null),
                        ),
                    ),
                ),
                'grade' => [null, 's', 'f', 'f', 'p', 'u'][mt_rand(0, 5)],
                'depths' => array_values(
                    array_unique(array_map(static fn (): string => (string) (mt_rand(0, 40) / 4), array_fill(0, mt_rand(0, 2), null))),
                ),
                'valid' => mt_rand(0, 4) === 0
                        ? null
                        : [
                            ($from = sprintf('%d-%02d-%02d', mt_rand(2000, 2009), mt_rand(1, 12), mt_rand(1, 28))),
                            (new DateTimeImmutable($from))->modify('+'.mt_rand(0, 900).' days')->format('Y-m-d'),
                        ],
                'dated' => mt_rand(0, 4) === 0 ? null : sprintf('%d-%02d-%02d', mt_rand(1990, 2020), mt_rand(1, 12), mt_rand(1, 28)),
            ];
        }
        foreach (array_chunk($this->documents, 1_500, true) as $chunk) {
            $writer->put(array_map($this->indexed(...), array_keys($chunk)));
            $writer->flush();
        }
    }

    private function indexed(int $number): IndexedDocument
    {
        $d = $this->documents[$number];
        $values = array_filter([
            'vessel' => $d['vessels'],
            'grade' => (array) $d['grade'],
            'depth' => $d['depths'],
            'dated' => (array) $d['dated'],
            'valid' => $d['valid'] === null ? [] : [implode('/', $d['valid'])],
        ]);

        return DocumentEntries::of(new FiledDocument($number, '', implode(' ', $d['words']), 'a', $values), $this->schema->fields);
    }

    /** @param  bool  $atHand  whether the columns are fetched already, so that they are used for few documents too */
    public function reader(bool $atHand = false): IndexReader
    {
        $reader = new IndexReader($this->store);
        foreach ($atHand ? ['vessel', 'grade', 'dated'] : [] as $field) {
            $reader->column($field, 0, 0, 0);
        }
        $atHand && $reader->allSlices('depth');

        return $reader;
    }

    public function search(IndexReader $reader, SearchRequest $request): SearchAnswer
    {
        $names = new class implements DocumentNames
        {
            public function of(string $name, array $documents): array
            {
                return [];
            }
        };

        return (new Searcher($reader, $this->schema, $names))->search(new Asker(['a']), $request);
    }

    /** @return array<int, array{words: list<string>, vessels: list<string>, grade: ?string, depths: list<string>, dated: ?string, valid: array{string, string}|null}> */
    public function with(string $word): array
    {
        return array_filter($this->documents, static fn (array $d): bool => in_array($word, $d['words'], true));
    }
}

/**
 * @param  array<int, array<string, mixed>>  $documents
 * @return array<string, int> value => documents, the most first
 */
function countedOneByOne(array $documents, string $field): array
{
    $counts = [];
    foreach ($documents as $d) {
        $values = match ($field) {
            'vessel' => $d['vessels'],
            'grade' => array_filter([$d['grade']]),
            default => $d['dated'] === null ? [] : [substr($d['dated'], 0, 4), substr($d['dated'], 0, 7)],
        };
        foreach ($values as $value) {
            $counts[$value] = ($counts[$value] ?? 0) + 1;
        }
    }
    ksort($counts, SORT_STRING);

    return $counts;
}

it('counts facets of few and of many documents as one by one, from records and from columns', function (string $word, bool $atHand) {
    $crowd = Crowd::made();
    $found = $crowd->with($word);
    $facets = $crowd
        ->search(
            $crowd->reader($atHand),
            new SearchRequest(
                Ledger::of(Parser::parse($word)->root),
                facets: FacetRequest::of(['vessel', 'grade', 'dated', 'depth'], 10_000),
            ),
        )
        ->facets();
    foreach (['vessel', 'grade', 'dated'] as $field) {
        $counts = array_column(array_map(static fn (FacetValue $v): array => [$v->value, $v->count], $facets[$field]->values), 1, 0);
        ksort($counts, SORT_STRING);
        expect($counts)->toBe(countedOneByOne($found, $field))->and($facets[$field]->distinct)->toBe(count($counts));
    }
    $depths = array_merge(...array_values(array_map(static fn (array $d): array => array_map(floatval(...), $d['depths']), $found)));
    expect(array_sum(array_column($facets['depth']->ranges, 'count')))->toBeGreaterThan(0);
    foreach ($facets['depth']->ranges as $range) {
        // A document with two depths in a range is one.
        expect($range->count)->toBe(
            count(
                array_filter(
                    $found,
                    static fn (array $d): bool => array_filter(
                        $d['depths'],
                        static fn (string $v): bool => $v >= (float) $range->from && $v <= (float) $range->to,
                    ) !== [],
                ),
            ),
        );
    }
    expect((float) $facets['depth']->ranges[0]->from)
        ->toBeLessThanOrEqual(min($depths))
        ->and((float) $facets['depth']->ranges[count($facets['depth']->ranges) - 1]->to)
        ->toBeGreaterThanOrEqual(max($depths));
})
    ->with(array_keys(Crowd::WORDS))
    ->with([false, true]);

it('lists values by count, by name and by standing out, and only those that are looked for', function (string $word) {
    $crowd = Crowd::made();
    $counts = countedOneByOne($found = $crowd->with($word), 'vessel');
    $facet = static fn (FacetOrder $order, int $most, string $search = ''): array => $crowd
        ->search(
            $crowd->reader(),
            new SearchRequest(Ledger::of(Parser::parse($word)->root), facets: [new FacetRequest('vessel', $most, $order, $search)]),
        )
        ->facets()['vessel']->values;
    $by = $counts;
    uksort($by, static fn (string $a, string $b): int => $counts[$b] <=> $counts[$a] ?: strcmp($a, $b));
    expect(array_map(static fn (FacetValue $v): array => [$v->value, $v->count], $facet(FacetOrder::Count, 7)))->toBe(
        array_map(static fn (string $v): array => [$v, $counts[$v]], array_slice(array_keys($by), 0, 7)),
    );
    expect(array_column($facet(FacetOrder::Name, 9), 'value'))
        ->toBe(array_slice(array_keys($counts), 0, 9))
        ->and(array_column($facet(FacetOrder::Name, 500, 'sel 12'), 'value'))
        ->toBe(array_values(array_filter(array_keys($counts), static fn (string $v): bool => str_contains($v, 'sel 12'))));
    $all = countedOneByOne($crowd->documents, 'vessel');
    $standing = array_filter(
        array_map(
            static fn (string $v): ?StandingOut => StandingOut::of($counts[$v], count($found), $all[$v], count($crowd->documents)),
            array_combine(array_keys($counts), array_keys($counts)),
        ),
    );
    uksort($standing, static fn (string $a, string $b): int => $standing[$b]->likelihood <=> $standing[$a]->likelihood ?: strcmp($a, $b));
    expect(array_column($facet(FacetOrder::StandingOut, 5), 'value'))->toBe(array_slice(array_keys($standing), 0, 5));
})->with(['gate', 'sill', 'weir']);

it('gives every page of a sorted result as sorting all of it would', function (string $field, bool $descending, string $word) {
    $crowd = Crowd::made();
    $found = $crowd->with($word);
    $grades = ['s' => 0, 'f' => 1, 'p' => 2, 'u' => 3];
    $least = $descending ? max(...) : min(...);
    $key = match ($field) {
        'vessel' => static fn (array $d): ?string => $d['vessels'] === [] ? null : $least($d['vessels']),
        'grade' => static fn (array $d): ?int => $d['grade'] === null ? null : $grades[$d['grade']],
        default => static fn (array $d): ?string => $d['dated'],
        'depth' => static fn (array $d): ?float => $d['depths'] === [] ? null : $least(array_map(floatval(...), $d['depths'])),
    };
    $keys = array_map($key, $found);
    $expected = array_keys($found);
    usort(
        $expected,
        static fn (int $a, int $b): int => match (true) {
            $keys[$a] === $keys[$b] => $b <=> $a,
            // What has no value stands last, whatever the direction.
            $keys[$a] === null => 1,
            $keys[$b] === null => -1,
            default => ($descending ? -1 : 1) * ($keys[$a] <=> $keys[$b]),
        },
    );
    $reader = $crowd->reader();
    foreach ([0, 1, 37, intdiv(count($found), 2), max(0, count($found) - 25), count($found)] as $offset) {
        $page = $crowd->search(
            $reader,
            new SearchRequest(Ledger::of(Parser::parse($word)->root), [SortKey::of($field, $descending)], [], $offset, 30),
        );
        expect($page->documents)->toBe(array_slice($expected, $offset, 30), "from {$offset}");
    }
})
    ->with(['vessel', 'grade', 'dated', 'depth'])
    ->with([false, true])
    ->with(['gate', 'sill', 'weir']);

it('sorts by age, and by relevance page after page', function () {
    $crowd = Crowd::made();
    $reader = $crowd->reader();
    foreach (['lock', 'sill', 'weir'] as $word) {
        $ledger = Ledger::of(Parser::parse($word)->root);
        $numbers = array_keys($crowd->with($word));
        $oldest = $crowd->search($reader, new SearchRequest($ledger, [SortKey::of('ref', false)], [], 20, 15));
        $newest = $crowd->search($reader, new SearchRequest($ledger, [SortKey::of('ref', true)], [], 20, 15));
        expect($oldest->documents)
            ->toBe(array_slice($numbers, 20, 15))
            ->and($newest->documents)
            ->toBe(array_slice(array_reverse($numbers), 20, 15));
        $documents = $scores = [];
        for ($offset = 0; $offset < count($numbers); $offset += 400) {
            $page = $crowd->search($reader, new SearchRequest($ledger, [], [], $offset, 400));
            array_push($documents, ...$page->documents);
            array_push($scores, ...array_values($page->scores));
        }
        $sorted = $scores;
        rsort($sorted);
        expect($documents)->toEqualCanonicalizing($numbers)->and($scores)->toBe($sorted);
        // Equals stand newest first.
        foreach ($documents as $i => $document) {
            expect($i > 0 && $scores[$i - 1] === $scores[$i] && $documents[$i - 1] < $document)->toBeFalse();
        }
    }
});

it('finds stretches of time by what they share with a date, lie before or after, or hold whole', function (string $cql, Closure $test) {
    $crowd = Crowd::made();
    $expected = array_keys(array_filter($crowd->documents, static fn (array $d): bool => $d['valid'] !== null && $test(...$d['valid'])));
    $answer = $crowd->search(
        $crowd->reader(),
        new SearchRequest(Ledger::of(Parser::parse($cql)->root), [SortKey::of('ref', false)], [], 0, 10_000),
    );
    expect($answer->documents)->toBe($expected)->and(count($expected))->toBeGreaterThan(0);
})->with([
    ['valid = 2004-06', static fn (string $from, string $to): bool => $from <= '2004-06-30' && $to >= '2004-06-01'],
    ['valid within "2004-06-10 2005"', static fn (string $from, string $to): bool => $from <= '2005-12-31' && $to >= '2004-06-10'],
    ['valid encloses "2004-06-10 2004-08"', static fn (string $from, string $to): bool => $from <= '2004-06-10' && $to >= '2004-08-31'],
    ['valid < 2003', static fn (string $from, string $to): bool => $from < '2003-01-01'],
    ['valid <= 2003-05', static fn (string $from, string $to): bool => $from <= '2003-05-31'],
    ['valid > 2008', static fn (string $from, string $to): bool => $to > '2008-12-31'],
    ['valid >= 2008-03-04', static fn (string $from, string $to): bool => $to >= '2008-03-04'],
    [
        'valid any "2001-01 2009-12"',
        static fn (string $from, string $to): bool => ($from <= '2001-01-31' && $to >= '2001-01-01') ||
            ($from <= '2009-12-31' && $to >= '2009-12-01'),
    ],
]);
