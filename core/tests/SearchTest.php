<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetOrder;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\DateRangeKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Kinds\YesNoKind;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\SheetMarks;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PlainQuery;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Searcher;
use Brenvic\Core\Tests\Support\Collection;

use function Brenvic\Core\Tests\Support\searchProperties;

require_once __DIR__.'/Support/search-properties.php';

searchProperties(static fn (): MemoryStore => new MemoryStore(), 70);

it('marks in an index sheet just the values by which a document is found', function () {
    seeded(77);
    $collection = new Collection();
    $collection->fill(80);
    $schema = $collection->schema;
    $tried = [];
    for ($i = 0; $i < 1500; $i++) {
        [$cql, $test] = $collection->criterion();
        // What is asked of a document as a whole, or of what it has not, marks no value.
        if (preg_match('/^\\(?(reach|depth|dated|dc\\.date)/', $cql) !== 1 || preg_match('/<>|""| all /', $cql) === 1) {
            continue;
        }
        $tried[$cql] = true;
        $marks = new SheetMarks(Ledger::of(Parser::parse($cql)->root), $schema);
        $isMarked = static fn (string $field, array $values): bool => array_filter(
            $values,
            static fn (string $value): bool => in_array(true, array_column($marks->pieces($schema->fields[$field], $value), 1), true),
        ) !== [];
        foreach ($collection->documents as $d) {
            expect(
                $isMarked('reach', $d['reaches']) || $isMarked('depth', $d['depths']) || $isMarked('dated', array_filter([$d['dated']])),
            )->toBe($test($d), "{$cql}: ".json_encode($d));
        }
        $not = new SheetMarks(
            new Ledger([new LedgerLine(Parser::parse($cql)->root, true), new LedgerLine(Parser::parse($cql)->root, false, false)]),
            $schema,
        );
        expect($not->pieces($schema->fields['reach'], 'n1'))->toBe([['North basin', false]]);
    }
    expect(count($tried))->toBeGreaterThan(15);
});

it('marks words within a value, and a value that is asked for whole', function () {
    $schema = new SearchSchema(
        [
            new FieldDefinition('author', 'Author', new TextKind, dublinCore: 'creator'),
            new FieldDefinition('span', 'Span', new DateRangeKind),
            new FieldDefinition('urgent', 'Urgent', new YesNoKind),
        ],
        [Part::Names, Part::Values],
    );
    $pieces = static fn (string $cql, string $field, string $value): string => implode(
        '',
        array_map(
            static fn (array $p): string => $p[1] ? "[{$p[0]}]" : $p[0],
            (new SheetMarks(Ledger::of(Parser::parse($cql)->root), $schema))->pieces($schema->fields[$field], $value),
        ),
    );
    expect($pieces('lorne', 'author', 'Ada Lorne, Kit'))
        ->toBe('Ada [Lorne], Kit')
        ->and($pieces('author = "ada lorne"', 'author', 'Ada Lorne, Kit'))
        ->toBe('[Ada Lorne], Kit')
        ->and($pieces('dc.creator any "kit ada"', 'author', 'Ada Lorne, Kit'))
        ->toBe('[Ada] Lorne, [Kit]')
        ->and($pieces('author == "ada*"', 'author', 'Ada Lorne, Kit'))
        ->toBe('[Ada Lorne, Kit]')
        ->and($pieces('author == "ada"', 'author', 'Ada Lorne, Kit'))
        ->toBe('Ada Lorne, Kit')
        ->and($pieces('author <> lorne', 'author', 'Ada Lorne'))
        ->toBe('Ada Lorne')
        ->and($pieces('text = lorne', 'author', 'Ada Lorne'))
        ->toBe('Ada Lorne')
        ->and($pieces('gate not lorne', 'author', 'Ada Lorne'))
        ->toBe('Ada Lorne')
        ->and($pieces('span = 2019-04', 'span', '2019-03/2019-05'))
        ->toBe('[Mar 2019 to May 2019]')
        ->and($pieces('span encloses 2019-04', 'span', '2019-03/2019-05'))
        ->toBe('[Mar 2019 to May 2019]')
        ->and($pieces('span > 2019-06', 'span', '2019-03/2019-05'))
        ->toBe('Mar 2019 to May 2019')
        ->and($pieces('author ==/word "ada lorne"', 'author', 'Ada Lorne, Kit'))
        ->toBe('[Ada Lorne], Kit')
        ->and($pieces('author = ""', 'author', 'Ada Lorne'))
        ->toBe('Ada Lorne')
        ->and($pieces('urgent == yes', 'urgent', '1'))
        ->toBe('[Yes]')
        ->and($pieces('span > nonsense', 'span', '2019-03/2019-05'))
        ->toBe('Mar 2019 to May 2019');
    $names = new SearchSchema($schema->fields, [Part::Names]);
    expect((new SheetMarks(Ledger::of(Parser::parse('lorne')->root), $names))->pieces($names->fields['author'], 'Ada Lorne'))->toBe([
        ['Ada Lorne', false],
    ]);
});

it('marks a stretch of time by what it shares with the days asked for', function (string $cql, bool $marked) {
    $schema = new SearchSchema([new FieldDefinition('span', 'Span', new DateRangeKind)]);
    expect((new SheetMarks(Ledger::of(Parser::parse($cql)->root), $schema))->pieces($schema->fields['span'], '2019-03/2019-05'))->toBe([
        ['Mar 2019 to May 2019', $marked],
    ]);
})->with([
    ['span = 2019-03-01', true],
    ['span = 2019-02', false],
    ['span < 2019-04', true],
    ['span < 2019-03', false],
    ['span <= 2019-03', true],
    ['span <= 2019-02', false],
    ['span > 2019-04', true],
    ['span > 2019-05', false],
    ['span >= 2019-05', true],
    ['span >= 2019-06', false],
    ['span <> 2019-04', false],
    ['span = ""', false],
    ['span within "2019-05 2020"', true],
    ['span within "2019-06 2020"', false],
    ['span encloses 2019', false],
    ['span any "2018 2019-05"', true],
]);

it('gives the same answers whatever is hidden', function () {
    seeded(77);
    for ($round = 0; $round < 40; $round++) {
        $plain = new Collection();
        $plain->fill(30);
        $hidden = array_filter($plain->documents, static fn (array $d): bool => $d['library'] === 'c');
        $without = clone $plain;
        $without->store = unserialize(serialize($plain->store));
        $writer = new IndexWriter($without->store);
        foreach (array_keys($hidden) as $number) {
            $writer->remove($number);
        }
        $writer->flush();
        for ($q = 0; $q < 6; $q++) {
            $request = new SearchRequest(
                Ledger::of(Parser::parse($plain->criterion()[0])->root),
                facets: [...FacetRequest::of(['library', 'dated', 'depth']), new FacetRequest('reach', order: FacetOrder::StandingOut)],
            );
            $with = $plain->searcher()->search(new Asker(['a', 'b']), $request);
            $bare = $without->searcher()->search(new Asker(['a', 'b']), $request);
            expect([$with->total, $with->lines, $with->facets(), $with->visible])->toEqual([
                $bare->total,
                $bare->lines,
                $bare->facets(),
                $bare->visible,
            ]);
            expect($with->documents)
                ->toBe($bare->documents)
                ->and([$with->rescues, $with->nearMisses, $with->scores])
                ->toEqual([$bare->rescues, $bare->nearMisses, $bare->scores]);
        }
    }
});

it('keeps a facet open for more of its own values', function () {
    seeded(5);
    $collection = new Collection();
    $collection->fill(60);
    $searcher = $collection->searcher();
    $asker = new Asker(['a', 'b', 'c']);
    $free = $searcher->search($asker, new SearchRequest(new Ledger([]), facets: FacetRequest::of(['library'])));
    $one = $searcher->search(
        $asker,
        new SearchRequest(Ledger::of(Parser::parse('library == a')->root), facets: FacetRequest::of(['library'])),
    );
    $counts = static fn (array $values): array => array_map(static fn ($value): array => [$value->value, $value->count], $values);
    expect($counts($one->facets()['library']->values))
        ->toBe($counts($free->facets()['library']->values))
        ->and($one->total)
        ->toBeLessThan($free->total);
    expect(array_column(array_filter($one->facets()['library']->values, static fn ($value): bool => $value->chosen), 'value'))->toBe(['a']);
});

it('divides documents into groups as one by one, with sums and ranges', function () {
    seeded(61);
    for ($round = 0; $round < 40; $round++) {
        $collection = new Collection();
        $collection->fill(mt_rand(1, 60));
        $reader = new IndexReader($collection->store);
        $fields = $collection->schema->fields;
        $grouping = new Brenvic\Core\Search\Values\Grouping($reader, $fields['depth']);
        $searcher = $collection->searcher();
        foreach (
            [['reach', null], ['reach', 'n'], ['library', null], ['dated', null], ['dated', '2019'], ['depth', null]] as [$code, $below]
        ) {
            foreach ($grouping->of($reader->all(), $fields[$code], $below) as $group) {
                // A group is what its own criterion finds, among what is divided.
                $found = $searcher->documents(new Asker(['a', 'b', 'c']), $group->node)->documents();
                expect($found)->toHaveCount($group->count, "{$code} {$below} {$group->label}");
                $depths = array_map(
                    floatval(...),
                    array_merge([], ...array_map(fn (int $d): array => $collection->documents[$d]['depths'], $found)),
                );
                expect($group->total)->toEqual(
                    $depths === []
                        ? null
                        : ['sum' => (string) array_sum($depths), 'lowest' => (string) min($depths), 'highest' => (string) max($depths)],
                );
            }
        }
        $roots = array_filter($grouping->of($reader->all(), $fields['reach']), static fn ($group): bool => $group->label !== '');
        $byHand = array_filter(
            array_map(
                fn (string $root): int => count(
                    array_filter($collection->documents, fn (array $d): bool => in_array($root, $collection->lineages($d), true)),
                ),
                ['n', 's'],
            ),
        );
        expect(array_map(static fn ($group): int => $group->count, $roots))->toBe(array_values($byHand));
    }
});

it('puts words of one stem together, as Porter gives them', function (string $word, string $stem) {
    expect(Brenvic\Core\Index\Stemmer::stem($word))->toBe($stem);
})->with([
    ['caresses', 'caress'],
    ['ponies', 'poni'],
    ['cats', 'cat'],
    ['agreed', 'agre'],
    ['plastered', 'plaster'],
    ['motoring', 'motor'],
    ['sing', 'sing'],
    ['conflated', 'conflat'],
    ['hopping', 'hop'],
    ['falling', 'fall'],
    ['filing', 'file'],
    ['happy', 'happi'],
    ['sky', 'sky'],
    ['relational', 'relat'],
    ['valenci', 'valenc'],
    ['triplicate', 'triplic'],
    ['hopeful', 'hope'],
    ['goodness', 'good'],
    ['revival', 'reviv'],
    ['allowance', 'allow'],
    ['adoption', 'adopt'],
    ['replacement', 'replac'],
    ['rate', 'rate'],
    ['cease', 'ceas'],
    ['controll', 'control'],
    ['roll', 'roll'],
    ['seepage', 'seepag'],
    ['inspections', 'inspect'],
    ['inspected', 'inspect'],
    ['lk0417', 'lk0417'],
    ['é', 'é'],
]);

it('names what a word was widened to, and guesses at one that is nowhere', function () {
    seeded(31);
    $collection = new Collection();
    $collection->fill(60);
    $ask = static fn (string $cql) => $collection
        ->searcher()
        ->search(new Asker(['a', 'b', 'c']), new SearchRequest(Ledger::of(Parser::parse($cql)->root)))->lines[0]->variants[0];
    $stem = $ask('text =/stem/without=gates gate');
    expect(array_column($stem->words, 'on', 'word'))
        ->toEqual(['gate' => true, 'gates' => false])
        ->and($stem->suggested)
        ->toBeFalse();
    $guess = $ask('text = seepge');
    expect($guess->suggested)
        ->toBeTrue()
        ->and($guess->words[0]['word'])
        ->toBe('seepage')
        ->and($guess->words[0]['count'])
        ->toBeGreaterThan(0);
});

it('refuses what cannot be answered and names what was probably meant', function (string $cql, string $message) {
    $collection = new Collection();
    $collection->fill(5);
    expect(fn () => $collection->searcher()->search(new Asker(['a']), new SearchRequest(Ledger::of(Parser::parse($cql)->root))))->toThrow(
        SearchError::class,
        $message,
    );
})->with([
    ['raech == n', 'The nearest name is “reach”'],
    ['depth = deep', 'not a number'],
    ['dated > soon', 'not a date'],
    ['dated within soon', 'stretch of time'],
    ['depth within 2', 'two values'],
    ['text = gate prox/unit=page text = sill', 'words, sentences or paragraphs'],
    ['text = "a*"', 'at least two letters'],
    ['text =/stemm gate', 'The nearest one is /stem'],
    ['dc.tittle = gate', 'The nearest one is “dc.title”'],
    ['dc.rights = open', 'No field is mapped'],
    ['>x="urn:y" x.title = gate', 'context set'],
    ['reach < n', 'no order'],
    ['text < gate', 'words have no order'],
    ['text =/fuzzy=9 gate', 'from 1 to 3'],
    ['text = a prox/unit=word/distance<=x text = b', 'whole number'],
]);

it('ranks large sets by bit slices exactly as small ones one by one', function () {
    seeded(9);
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $batch = [];
    for ($number = 1; $number <= 9_000; $number++) {
        $batch[] = new IndexedDocument(
            $number * 9,
            [
                Part::Text->value => [
                    str_repeat('gate ', mt_rand(0, 5)).
                    str_repeat('gates ', mt_rand(0, 2)).
                    str_repeat('sill ', mt_rand(0, 3)).
                    str_repeat('x ', mt_rand(1, 20)).
                    'w'.
                    mt_rand(1, 60),
                ],
                Part::Names->value => [['gate', 'sill', 'other', 'gate sill'][mt_rand(0, 3)]],
            ],
            ['library' => ['a']],
            [],
            [],
        );
    }
    $writer->put($batch);
    $writer->flush();
    $reader = new IndexReader($store);
    $visible = $reader->all();
    $parts = [Part::Text->value, Part::Names->value];
    // A word, one with a variant, and one with many.
    $terms = array_map(
        static fn (array $variants) => new Brenvic\Core\Search\Words\RankedTerm(
            $parts,
            $reader->countWords($parts, array_values($reader->wordNumbers($variants)), $visible),
        ),
        [['sill'], ['gate', 'gates'], array_map(static fn (int $n): string => "w{$n}", range(1, 30))],
    );
    $nearness = new Brenvic\Core\Search\Words\RankedNearness([9 => 1, 27 => 4, 9_000 => 40]);
    $ranker = new Brenvic\Core\Search\Order\Ranker($reader, $visible, $terms, [$nearness]);
    $slices = $ranker->scores($visible);
    $documents = $visible->documents();
    $scores = $ranker->scoresOf($documents);
    foreach ($documents as $document) {
        if ($slices->value($document) !== $scores[$document]) {
            $this->fail("document {$document}: {$slices->value($document)} by slices, {$scores[$document]} alone");
        }
    }
    usort($documents, static fn (int $a, int $b): int => $scores[$b] <=> $scores[$a] ?: $b <=> $a);
    $ordering = new Brenvic\Core\Search\Order\SliceOrdering($slices, true);
    foreach ([0, 40, 4_000, 8_960] as $offset) {
        expect(Brenvic\Core\Search\Order\Sorter::page($visible, [$ordering], $offset, 40))->toBe(array_slice($documents, $offset, 40));
    }
});

it('puts a document with all asked words before one with a single word in its title, and words that stand together first', function () {
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $texts = [
        1 => [
            'Sluice',
            'The lower gate of the lock leaks at the sill, and the paddle gear is worn. '.
            str_repeat('Other words of a long survey. ', 60),
        ],
        2 => ['Gate', 'Nothing else of that.'],
        3 => ['Gate gate', str_repeat('gate ', 40)],
        4 => ['Log', 'A paddle stood by the gate. The gear was there, and a lock, and a sill.'],
        5 => ['Log', 'The paddle gear of the lock gate sill.'],
        6 => ['Log', 'The gear paddle of the sill gate lock.'],
    ];
    foreach ($texts as $number => [$title, $text]) {
        $writer->put([
            new IndexedDocument($number, [Part::Names->value => [$title], Part::Text->value => [$text]], ['library' => ['a']], []),
        ]);
    }
    $writer->flush();
    $names = new class implements DocumentNames
    {
        public function of(string $name, array $documents): array
        {
            return [];
        }
    };
    $searcher = new Searcher(new IndexReader($store), new SearchSchema([]), $names);
    $ranked = static fn (string $words, bool $any, int $offset = 0, int $limit = 10): array => $searcher->search(
        new Asker(['a']),
        new SearchRequest(
            Ledger::of(PlainQuery::parse($words, $any)->root),
            [SortKey::of(Searcher::RELEVANCE, true)],
            offset: $offset,
            limit: $limit,
        ),
    )->documents;
    $any = $ranked('paddle gear lock gate sill', true);
    expect($any[0])
        ->toBe(5)
        ->and(array_slice($any, -2))
        ->toEqualCanonicalizing([2, 3])
        ->and($ranked('paddle gear', false)[0])
        ->toBe(5)
        ->and($ranked('gear paddle', false)[0])
        ->toBe(6)
        // Pages of one order.
        ->and([
            ...$ranked('paddle gear lock gate sill', true, 0, 2),
            ...$ranked('paddle gear lock gate sill', true, 2, 2),
            ...$ranked('paddle gear lock gate sill', true, 4, 2),
        ])
        ->toBe($any);
});

it('weighs a word in a title against many in a text by saturation, not by a multiple', function () {
    $of = Brenvic\Core\Index\Impact::of(...);
    expect($of(1, Part::Names->value, 6))
        ->toBeGreaterThan($of(1, Part::Text->value, 300))
        ->and($of(30, Part::Text->value, 300))
        ->toBeGreaterThan($of(1, Part::Names->value, 6))
        ->and($of(1_000, Part::Names->value, 1))
        ->toBe(Brenvic\Core\Index\Impact::HIGHEST)
        ->and($of(1, Part::Text->value, 1_000_000))
        ->toBe(1);
});

it('knows the context sets by their official names, and relations by the prefix given to them', function (string $cql, bool $found) {
    $collection = new Collection();
    seeded(1);
    $collection->fill(60);
    $evaluate = static fn (string $query): array => (new Brenvic\Core\Search\Answer\Evaluator(
        ($reader = new IndexReader($collection->store)),
        $collection->schema,
        $reader->all(),
    ))
        ->evaluate(Parser::parse($query)->root)
        ->documents();
    if ($found) {
        expect($evaluate($cql))->toBe($evaluate('title any "gate lock"'))->not->toBe([]);
    } else {
        expect(static fn () => $evaluate($cql))->toThrow(SearchError::class);
    }
})->with([
    ['>d="info:srw/cql-context-set/1/dc-v1.1" d.title any "gate lock"', true],
    ['>c="info:srw/cql-context-set/1/cql-v1.2" >d="info:srw/cql-context-set/1/dc-v1.1" d.title c.any "gate lock"', true],
    ['>c="info:srw/cql-context-set/1/cql-v1.1" title c.any /c.ignorecase "gate lock"', true],
    ['dc.title cql.any "gate lock"', true],
    ['>"info:srw/cql-context-set/1/dc-v1.1" title any "gate lock"', true],
    ['>d="http://purl.org/dc/elements/1.1/" title d.any "gate lock"', false],
    ['>c="info:srw/cql-context-set/1/cql-v1.2" title c.most gate', false],
]);

it('looks for what begins or ends a text there only, with few words and with many', function () {
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $texts = [['name of it', 'and more'], ['its name'], ['name'], ['no', 'name and no'], ['noname name', 'the names'], []];
    foreach ($texts as $i => $of) {
        $writer->put([new IndexedDocument($i + 1, [Part::Text->value => $of], [], [])]);
    }
    $writer->flush();
    $reader = new IndexReader($store);
    $found = static fn (string $cql): array => (new Brenvic\Core\Search\Answer\Evaluator($reader, new SearchSchema([]), $reader->all()))
        ->evaluate(Parser::parse($cql)->root)
        ->documents();
    expect($found('text = "^name"'))
        ->toBe([1, 3, 4])
        ->and($found('text = "name^"'))
        ->toBe([2, 3, 5])
        ->and($found('text == name'))
        ->toBe([3])
        ->and($found('text =/fuzzy=1 "^name"'))
        ->toBe([1, 3, 4])
        ->and($found('text = "^na*"'))
        ->toBe([1, 3, 4])
        ->and($found('text = "na*^"'))
        ->toBe([2, 3, 5])
        ->and($found('text = "^no*"'))
        ->toBe([4, 5]);
});
