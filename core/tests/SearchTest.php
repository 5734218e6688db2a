<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetOrder;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\SheetMarks;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asker;
use Brenvic\Core\Search\DocumentNames;
use Brenvic\Core\Search\Searcher;
use Brenvic\Core\Search\SearchError;
use Brenvic\Core\Search\SearchRequest;
use Brenvic\Core\Search\SearchSchema;

/** A collection small enough to be searched by looking at every document. */
final class Collection
{
    private const WORDS = ['gate', 'lock', 'sill', 'seepage', 'gates', 'weir', 'silt', 'over', 'ash'];

    public readonly SearchSchema $schema;

    public MemoryStore $store;

    /** @var array<int, array{text: list<string>, ends: list<int>, title: string, library: string, reaches: list<string>, depths: list<string>, dated: ?string}> ends: 1 where a sentence ends behind a word, 2 a paragraph */
    public array $documents = [];

    public function __construct()
    {
        $reaches = new Vocabulary('reach', [
            new VocabularyTerm('n', 'North'), new VocabularyTerm('n1', 'North basin', 'n'), new VocabularyTerm('n11', 'Inner basin', 'n1'),
            new VocabularyTerm('s', 'South'), new VocabularyTerm('s1', 'South cut', 's'),
        ]);
        $libraries = new Vocabulary('library', [new VocabularyTerm('a', 'A'), new VocabularyTerm('b', 'B'), new VocabularyTerm('c', 'C')]);
        $this->schema = new SearchSchema([
            new FieldDefinition('library', 'Library', FieldKind::Choice, faceted: true, vocabulary: $libraries, system: true),
            new FieldDefinition('reach', 'Reach', FieldKind::Choice, multiple: true, faceted: true, vocabulary: $reaches, dublinCore: 'coverage'),
            new FieldDefinition('depth', 'Depth', FieldKind::Number, multiple: true, faceted: true),
            new FieldDefinition('dated', 'Dated', FieldKind::Date, faceted: true, dublinCore: 'date'),
        ], calendar: new Calendar(new DateTimeImmutable('2020-05-20')), stamp: 'one');
        $this->store = new MemoryStore;
    }

    public function fill(int $count): void
    {
        $writer = new IndexWriter($this->store);
        $batch = [];
        for ($i = 0; $i < $count; $i++) {
            $number = mt_rand(1, 40) + mt_rand(0, 2) * 65_536;
            $this->documents[$number] = $this->random();
            $batch[$number] = $this->indexed($number);
            if (mt_rand(0, 4) === 0) {
                $writer->put(array_values($batch));
                $batch = [];
                mt_rand(0, 1) === 0 && $writer->flush();
            }
            if (mt_rand(0, 12) === 0) {
                $writer->remove($number);
                unset($this->documents[$number], $batch[$number]);
            }
        }
        $writer->put(array_values($batch));
        $writer->flush();
    }

    /** @return array{text: list<string>, ends: list<int>, title: string, library: string, reaches: list<string>, depths: list<string>, dated: ?string} */
    private function random(): array
    {
        $text = [];
        for ($n = mt_rand(0, 9); $n > 0; $n--) {
            $text[] = self::WORDS[mt_rand(0, 8)];
        }
        $ends = array_map(static fn (): int => max(0, mt_rand(-2, 2)), $text);
        $some = static fn (array $of): array => array_values(array_intersect_key($of, array_flip((array) array_rand($of, mt_rand(1, 2)))));
        $pick = static fn (array $of): ?string => $of[mt_rand(0, count($of) - 1)];

        return [
            'text' => $text, 'ends' => $ends, 'title' => self::WORDS[mt_rand(0, 8)], 'library' => $pick(['a', 'b', 'c']),
            'reaches' => mt_rand(0, 3) === 0 ? [] : $some(['n', 'n1', 'n11', 's1']), 'depths' => mt_rand(0, 3) === 0 ? [] : $some(['0', '0.5', '-2', '3']),
            'dated' => $pick([null, '2019', '2019-03', '2019-03-14', '2020-01-01', '2021-12-31']),
        ];
    }

    private function indexed(int $number): IndexedDocument
    {
        $d = $this->documents[$number];
        $values = ['library' => [$d['library']]];
        $numbers = [];
        if ($d['reaches'] !== []) {
            $values['reach'] = $this->lineages($d);
            $values['reach.own'] = $d['reaches'];
        }
        if ($d['dated'] !== null) {
            $values['dated'] = array_values(array_unique([substr($d['dated'], 0, 4), substr($d['dated'], 0, 7)]));
            $values['dated.own'] = strlen($d['dated']) < 10 ? [$d['dated']] : [];
            $numbers['dated'] = [$this->schema->fields['dated']->ordinal($d['dated'])];
        }
        foreach ($d['depths'] as $depth) {
            $numbers['depth'][] = $this->schema->fields['depth']->ordinal($depth);
        }

        return new IndexedDocument($number, [
            Part::Text->value => [self::written($d)], Part::Names->value => [$d['title']],
            Part::ofField('reach') => array_map($this->schema->fields['reach']->display(...), $d['reaches']),
        ], $values, $numbers, ['library', 'reach', 'dated']);
    }

    /** @param  array{text: list<string>, ends: list<int>}  $d */
    private static function written(array $d): string
    {
        $text = '';
        foreach ($d['text'] as $i => $word) {
            $text .= ($i === 0 || $d['ends'][$i - 1] > 0 ? ucfirst($word) : $word).[' ', '. ', "\n\n"][$d['ends'][$i]];
        }

        return $text;
    }

    /** @return list<string> */
    public function lineages(array $d): array
    {
        return array_values(array_unique(array_merge([], ...array_map($this->schema->fields['reach']->vocabulary->lineage(...), $d['reaches']))));
    }

    /** @return array{string, Closure(array<string, mixed>): bool} a criterion and what it means */
    public function criterion(): array
    {
        $w = self::WORDS[mt_rand(0, 8)];
        $v = self::WORDS[mt_rand(0, 8)];
        $has = static fn (array $d, string $word): bool => in_array($word, $d['text'], true) || $d['title'] === $word;
        $sequence = static fn (array $d): bool => str_contains(' '.implode(' ', $d['text']).' ', " {$w} {$v} ");
        $below = fn (array $d, string $code): bool => in_array($code, $this->lineages($d), true);
        $depth = static fn (array $d, Closure $test): bool => array_filter(array_map(floatval(...), $d['depths']), $test) !== [];
        $day = static fn (?string $date): ?int => $date === null ? null : PartialDate::parse($date)->firstDay();
        $within = static fn (array $d, string $from, string $to): bool => $d['dated'] !== null && $day($d['dated']) >= $day($from) && $day($d['dated']) <= PartialDate::parse($to)->lastDay();
        $bound = ['-3', '0', '0.5', '2'][mt_rand(0, 3)];
        $near = function (array $d) use ($w, $v): bool {
            foreach (array_keys($d['text'], $w, true) as $a) {
                foreach (array_keys($d['text'], $v, true) as $b) {
                    if ($a !== $b && abs($a - $b) <= 3) {
                        return true;
                    }
                }
            }

            return false;
        };
        $together = static function (array $d, int $end, int $most, bool $ordered) use ($w, $v): bool {
            foreach (array_keys($d['text'], $w, true) as $a) {
                foreach (array_keys($d['text'], $v, true) as $b) {
                    $between = array_filter(array_slice($d['ends'], min($a, $b), abs($a - $b)), static fn (int $e): bool => $e >= $end);
                    if ($a !== $b && count($between) <= $most && ($a < $b || ! $ordered)) {
                        return true;
                    }
                }
            }

            return false;
        };
        $all = [
            [$w, static fn (array $d): bool => $has($d, $w)],
            ["text = \"{$w} {$v}\"", $sequence],
            ["text any \"{$w} {$v}\"", static fn (array $d): bool => in_array($w, $d['text'], true) || in_array($v, $d['text'], true)],
            ["text all \"{$w} {$v}\"", static fn (array $d): bool => in_array($w, $d['text'], true) && in_array($v, $d['text'], true)],
            ['text = g?te*', static fn (array $d): bool => array_intersect($d['text'], ['gate', 'gates']) !== []],
            ['text =/stem gate', static fn (array $d): bool => array_intersect($d['text'], ['gate', 'gates']) !== []],
            ['text =/stem/without=gate gates', static fn (array $d): bool => in_array('gates', $d['text'], true)],
            ["text =/fuzzy=1 {$w}", static fn (array $d): bool => array_filter($d['text'], static fn (string $o): bool => levenshtein($o, $w) <= min(1, intdiv(strlen($w), 3))) !== []],
            ["text =/phonetic {$w}", static fn (array $d): bool => array_filter($d['text'], static fn (string $o): bool => metaphone($o) === metaphone($w)) !== []],
            ["text =/stem \"gates {$v}\"", static fn (array $d): bool => preg_match('/(^| )gates? '.($v === 'gate' || $v === 'gates' ? 'gates?' : $v).'( |$)/', implode(' ', $d['text'])) === 1],
            ["text = {$w} prox/unit=word/distance<=3 text = {$v}", $near],
            ["text = {$w} prox/unit=sentence text = {$v}", static fn (array $d): bool => $together($d, 1, 0, false)],
            ["text = {$w} prox/unit=sentence/distance<=1/ordered text = {$v}", static fn (array $d): bool => $together($d, 1, 1, true)],
            ["text = {$w} prox/unit=paragraph/unordered text = {$v}", static fn (array $d): bool => $together($d, 2, 0, false)],
            ["text = \"^{$w}\"", static fn (array $d): bool => ($d['text'][0] ?? '') === $w],
            ["text = \"{$w} {$v}^\"", static fn (array $d): bool => array_slice($d['text'], -2) === [$w, $v]],
            ["text == \"{$w} {$v}\"", static fn (array $d): bool => $d['text'] === [$w, $v]],
            ['text =/without=gates g?te*', static fn (array $d): bool => in_array('gate', $d['text'], true)],
            ['text = ""', static fn (array $d): bool => $d['text'] === []],
            ['dc.title = "'.$w.'"', static fn (array $d): bool => $d['title'] === $w],
            [">x=\"http://purl.org/dc/elements/1.1/\" (x.title = {$w} or x.coverage == s)", static fn (array $d): bool => $d['title'] === $w || $below($d, 's')],
            ["({$w} or title = {$v})", static fn (array $d): bool => $has($d, $w) || $d['title'] === $v],
            ['reach == n1', static fn (array $d): bool => $below($d, 'n1')],
            ['reach ==/only n1', static fn (array $d): bool => in_array('n1', $d['reaches'], true)],
            ['reach == "nor*"', static fn (array $d): bool => $below($d, 'n') || $below($d, 'n1')],
            ['reach == "*"', static fn (array $d): bool => $d['reaches'] !== []],
            ['reach =/word "basin"', static fn (array $d): bool => array_intersect($d['reaches'], ['n1', 'n11']) !== []],
            ['(reach == "South" or reach == n11)', static fn (array $d): bool => $below($d, 's') || $below($d, 'n11')],
            ['reach = basin', static fn (array $d): bool => array_intersect($d['reaches'], ['n1', 'n11']) !== []],
            ['reach == ""', static fn (array $d): bool => $d['reaches'] === []],
            ['depth <> ""', static fn (array $d): bool => $d['depths'] !== []],
            ["depth >= {$bound}", static fn (array $d): bool => $depth($d, static fn (float $v): bool => $v >= (float) $bound)],
            ["depth < {$bound}", static fn (array $d): bool => $depth($d, static fn (float $v): bool => $v < (float) $bound)],
            ["depth = {$bound}", static fn (array $d): bool => $depth($d, static fn (float $v): bool => $v === (float) $bound)],
            ["depth <> {$bound}", static fn (array $d): bool => ! $depth($d, static fn (float $v): bool => $v === (float) $bound)],
            ['depth all "0 3"', static fn (array $d): bool => in_array('0', $d['depths'], true) && in_array('3', $d['depths'], true)],
            ['dated = 2019-03', static fn (array $d): bool => $within($d, '2019-03', '2019-03')],
            ['dated within "2019-02 2020"', static fn (array $d): bool => $within($d, '2019-02', '2020')],
            ['dated within "last year"', static fn (array $d): bool => $within($d, '2019', '2019')],
            ['dc.date = "fiscal year 2019"', static fn (array $d): bool => $within($d, '2019-04-01', '2020-03-31')],
            ['dated encloses 2019-03-14', static fn (array $d): bool => in_array($d['dated'], ['2019', '2019-03', '2019-03-14'], true)],
            ['dated encloses 2019-03', static fn (array $d): bool => in_array($d['dated'], ['2019', '2019-03'], true)],
            ['library == b', static fn (array $d): bool => $d['library'] === 'b'],
            ['library <> b', static fn (array $d): bool => $d['library'] !== 'b'],
        ];

        return $all[mt_rand(0, count($all) - 1)];
    }

    public function searcher(): Searcher
    {
        $names = new class($this) implements DocumentNames
        {
            public function __construct(private readonly Collection $of)
            {
            }

            public function of(string $name, array $documents): array
            {
                return array_combine($documents, array_map(fn (int $d): string => $this->of->documents[$d]['title'], $documents));
            }
        };

        $reader = new IndexReader($this->store);
        // Facets are counted from columns that are at hand, else from records.
        foreach (mt_rand(0, 1) === 0 ? ['library', 'reach', 'dated'] : [] as $field) {
            $reader->column($field, 0, 0, 0);
        }

        return new Searcher($reader, $this->schema, $names);
    }
}

it('lets each asker find just what every rule lets them see', function () {
    mt_srand(31);
    for ($round = 0; $round < 60; $round++) {
        $collection = new Collection;
        $collection->fill(mt_rand(10, 60));
        $searcher = $collection->searcher();
        // Somebody with some libraries, from whom up to two rules keep something; perhaps together with somebody else.
        $somebody = static function () use ($collection): array {
            $libraries = array_values(array_filter(['a', 'b', 'c'], static fn (): bool => mt_rand(0, 2) > 0));
            $rules = array_map(static fn (): array => $collection->criterion(), array_fill(0, mt_rand(0, 2), null));
            $asker = new Asker($libraries, array_map(static fn (array $rule): Node => Parser::parse($rule[0])->root, $rules), $collection->schema, 'one');

            return [$asker, static fn (array $d): bool => in_array($d['library'], $libraries, true) && array_filter($rules, static fn (array $rule): bool => $rule[1]($d)) === []];
        };
        for ($q = 0; $q < 6; $q++) {
            [$asker, $sees] = $somebody();
            if (mt_rand(0, 2) === 0) {
                [$other, $theySee] = $somebody();
                $asker = new Asker($asker->libraries, $asker->withheld, $asker->rules, $asker->design, $other);
                $sees = static fn (array $d): bool => $sees($d) && $theySee($d);
            }
            [$cql, $test] = $collection->criterion();
            $answer = $searcher->search($asker, new SearchRequest(new Ledger([new LedgerLine(Parser::parse($cql)->root)]), [new SortKey('title')], FacetRequest::of(['reach'], 500), 0, 500));
            $visible = array_filter($collection->documents, $sees);
            $found = array_filter($visible, $test);
            expect($answer->visible)->toBe(count($visible))->and($answer->documents)->toEqualCanonicalizing(array_keys($found), $cql);
            // A facet is counted without what was chosen of it.
            foreach (str_contains($cql, 'reach') ? [] : $answer->facets()['reach']->values as $value) {
                expect($value->count)->toBe(count(array_filter($found, static fn (array $d): bool => in_array($value->value, $collection->lineages($d), true))));
            }
        }
    }
});

it('counts what looking at every document counts', function () {
    mt_srand(2024);
    for ($round = 0; $round < 150; $round++) {
        $collection = new Collection;
        $collection->fill(mt_rand(0, 60));
        $searcher = $collection->searcher();
        $seen = array_filter($collection->documents, static fn (array $d): bool => $d['library'] !== 'c');
        for ($q = 0; $q < 8; $q++) {
            $lines = $tests = [];
            for ($n = mt_rand(0, 3); $n > 0; $n--) {
                [$cql, $test] = $collection->criterion();
                $negated = mt_rand(0, 3) === 0;
                $lines[] = new LedgerLine(Parser::parse($cql)->root, $negated, mt_rand(0, 4) !== 0);
                $tests[] = static fn (array $d): bool => $test($d) !== $negated;
            }
            $count = static fn (array $which): int => count(array_filter($seen, static function (array $d) use ($which, $tests): bool {
                foreach ($which as $i) {
                    if (! $tests[$i]($d)) {
                        return false;
                    }
                }

                return true;
            }));
            $on = array_keys(array_filter($lines, static fn (LedgerLine $line): bool => $line->on));
            $answer = $searcher->search(new Asker(['a', 'b']), new SearchRequest(new Ledger($lines), [SortKey::of('dated', true), new SortKey('title')], FacetRequest::of(['library', 'reach', 'dated'], 500), 0, 500));
            $shown = implode(' | ', array_map(static fn (LedgerLine $l): string => ($l->on ? '' : 'off ').($l->negated ? 'not ' : '').$l->cql(), $lines));
            expect($answer->total)->toBe($count($on), $shown)->and($answer->visible)->toBe(count($seen));
            foreach ($answer->lines as $i => $line) {
                expect([$line->alone, $line->running, $line->without])->toBe([
                    $count([$i]),
                    $count(array_filter($on, static fn (int $o): bool => $o <= $i)),
                    $count(array_filter($on, static fn (int $o): bool => $o !== $i)),
                ], "line {$i} of {$shown}");
            }
            $found = array_filter($seen, static function (array $d) use ($on, $tests): bool {
                foreach ($on as $i) {
                    if (! $tests[$i]($d)) {
                        return false;
                    }
                }

                return true;
            });
            expect($answer->documents)->toHaveCount(count($found));
            $dates = array_map(static fn (int $d): int => $found[$d]['dated'] === null ? 0 : PartialDate::parse($found[$d]['dated'])->firstDay(), $answer->documents);
            $sorted = $dates;
            rsort($sorted);
            expect($dates)->toBe($sorted);
            $pages = [];
            for ($at = 0; $at < $answer->total; $at += 7) {
                $pages = [...$pages, ...$searcher->search(new Asker(['a', 'b']), new SearchRequest(new Ledger($lines), [SortKey::of('dated', true), new SortKey('title')], [], $at, 7))->documents];
            }
            expect($pages)->toBe($answer->documents);
            if ($answer->total === 0) {
                $sizes = array_unique(array_map(static fn ($rescue): int => count($rescue->lines), $answer->rescues));
                expect(count($sizes))->toBeLessThanOrEqual(1);
                foreach ($answer->rescues as $rescue) {
                    expect($rescue->count)->toBe($count(array_diff($on, $rescue->lines)))->toBeGreaterThan(0);
                }
                $singles = array_filter($on, static fn (int $i): bool => $count(array_diff($on, [$i])) > 0);
                $found1 = array_map(static fn ($rescue): int => $rescue->lines[0], array_filter($answer->rescues, static fn ($rescue): bool => count($rescue->lines) === 1));
                expect($found1)->toEqualCanonicalizing($singles);
            }
            $facetsAreOwn = array_filter($lines, static fn (LedgerLine $l): bool => $l->on && ! $l->negated && preg_match('/^(reach|library) ==/', $l->cql()) === 1);
            if ($facetsAreOwn === []) {
                $byHand = [];
                foreach ($found as $d) {
                    foreach ($collection->lineages($d) as $code) {
                        $byHand[$code] = ($byHand[$code] ?? 0) + 1;
                    }
                }
                $counted = [];
                foreach ($answer->facets()['reach']->values as $value) {
                    if ($value->excluded) {
                        unset($byHand[$value->value]);
                    } else {
                        $counted[$value->value] = $value->count;
                    }
                }
                ksort($byHand);
                ksort($counted);
                expect($counted)->toBe($byHand);
            }
        }
    }
});

it('marks in an index sheet just the values by which a document is found', function () {
    mt_srand(77);
    $collection = new Collection;
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
        $isMarked = static fn (string $field, array $values): bool => array_filter($values, static fn (string $value): bool => in_array(true, array_column($marks->pieces($schema->fields[$field], $value), 1), true)) !== [];
        foreach ($collection->documents as $d) {
            expect($isMarked('reach', $d['reaches']) || $isMarked('depth', $d['depths']) || $isMarked('dated', array_filter([$d['dated']])))->toBe($test($d), "{$cql}: ".json_encode($d));
        }
        $not = new SheetMarks(new Ledger([new LedgerLine(Parser::parse($cql)->root, true), new LedgerLine(Parser::parse($cql)->root, false, false)]), $schema);
        expect($not->pieces($schema->fields['reach'], 'n1'))->toBe([['North basin', false]]);
    }
    expect(count($tried))->toBeGreaterThan(15);
});

it('marks words within a value, and a value that is asked for whole', function () {
    $schema = new SearchSchema([new FieldDefinition('author', 'Author', FieldKind::Text, dublinCore: 'creator'), new FieldDefinition('span', 'Span', FieldKind::DateRange), new FieldDefinition('urgent', 'Urgent', FieldKind::YesNo)], [Part::Names, Part::Values]);
    $pieces = static fn (string $cql, string $field, string $value): string => implode('', array_map(static fn (array $p): string => $p[1] ? "[{$p[0]}]" : $p[0], (new SheetMarks(Ledger::of(Parser::parse($cql)->root), $schema))->pieces($schema->fields[$field], $value)));
    expect($pieces('lorne', 'author', 'Ada Lorne, Kit'))->toBe('Ada [Lorne], Kit')
        ->and($pieces('author = "ada lorne"', 'author', 'Ada Lorne, Kit'))->toBe('[Ada Lorne], Kit')
        ->and($pieces('dc.creator any "kit ada"', 'author', 'Ada Lorne, Kit'))->toBe('[Ada] Lorne, [Kit]')
        ->and($pieces('author == "ada*"', 'author', 'Ada Lorne, Kit'))->toBe('[Ada Lorne, Kit]')
        ->and($pieces('author == "ada"', 'author', 'Ada Lorne, Kit'))->toBe('Ada Lorne, Kit')
        ->and($pieces('author <> lorne', 'author', 'Ada Lorne'))->toBe('Ada Lorne')
        ->and($pieces('text = lorne', 'author', 'Ada Lorne'))->toBe('Ada Lorne')
        ->and($pieces('gate not lorne', 'author', 'Ada Lorne'))->toBe('Ada Lorne')
        ->and($pieces('span = 2019-04', 'span', '2019-03/2019-05'))->toBe('[Mar 2019 to May 2019]')
        ->and($pieces('span encloses 2019-04', 'span', '2019-03/2019-05'))->toBe('[Mar 2019 to May 2019]')
        ->and($pieces('span > 2019-06', 'span', '2019-03/2019-05'))->toBe('Mar 2019 to May 2019')
        ->and($pieces('author ==/word "ada lorne"', 'author', 'Ada Lorne, Kit'))->toBe('[Ada Lorne], Kit')
        ->and($pieces('author = ""', 'author', 'Ada Lorne'))->toBe('Ada Lorne')
        ->and($pieces('urgent == yes', 'urgent', '1'))->toBe('[Yes]')
        ->and($pieces('span > nonsense', 'span', '2019-03/2019-05'))->toBe('Mar 2019 to May 2019');
    $names = new SearchSchema($schema->fields, [Part::Names]);
    expect((new SheetMarks(Ledger::of(Parser::parse('lorne')->root), $names))->pieces($names->fields['author'], 'Ada Lorne'))->toBe([['Ada Lorne', false]]);
});

it('marks a stretch of time by what it shares with the days asked for', function (string $cql, bool $marked) {
    $schema = new SearchSchema([new FieldDefinition('span', 'Span', FieldKind::DateRange)]);
    expect((new SheetMarks(Ledger::of(Parser::parse($cql)->root), $schema))->pieces($schema->fields['span'], '2019-03/2019-05'))->toBe([['Mar 2019 to May 2019', $marked]]);
})->with([
    ['span = 2019-03-01', true], ['span = 2019-02', false], ['span < 2019-04', true], ['span < 2019-03', false], ['span <= 2019-03', true], ['span <= 2019-02', false],
    ['span > 2019-04', true], ['span > 2019-05', false], ['span >= 2019-05', true], ['span >= 2019-06', false], ['span <> 2019-04', false], ['span = ""', false],
    ['span within "2019-05 2020"', true], ['span within "2019-06 2020"', false], ['span encloses 2019', false], ['span any "2018 2019-05"', true],
]);

it('gives the same answers whatever is hidden', function () {
    mt_srand(77);
    for ($round = 0; $round < 40; $round++) {
        $plain = new Collection;
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
            $request = new SearchRequest(Ledger::of(Parser::parse($plain->criterion()[0])->root), facets: [...FacetRequest::of(['library', 'dated', 'depth']), new FacetRequest('reach', order: FacetOrder::StandingOut)]);
            $with = $plain->searcher()->search(new Asker(['a', 'b']), $request);
            $bare = $without->searcher()->search(new Asker(['a', 'b']), $request);
            expect([$with->total, $with->lines, $with->facets(), $with->visible])->toEqual([$bare->total, $bare->lines, $bare->facets(), $bare->visible]);
            expect($with->documents)->toBe($bare->documents)->and([$with->rescues, $with->nearMisses, $with->scores])->toEqual([$bare->rescues, $bare->nearMisses, $bare->scores]);
        }
    }
});

it('keeps a facet open for more of its own values', function () {
    mt_srand(5);
    $collection = new Collection;
    $collection->fill(60);
    $searcher = $collection->searcher();
    $asker = new Asker(['a', 'b', 'c']);
    $free = $searcher->search($asker, new SearchRequest(new Ledger([]), facets: FacetRequest::of(['library'])));
    $one = $searcher->search($asker, new SearchRequest(Ledger::of(Parser::parse('library == a')->root), facets: FacetRequest::of(['library'])));
    $counts = static fn (array $values): array => array_map(static fn ($value): array => [$value->value, $value->count], $values);
    expect($counts($one->facets()['library']->values))->toBe($counts($free->facets()['library']->values))->and($one->total)->toBeLessThan($free->total);
    expect(array_column(array_filter($one->facets()['library']->values, static fn ($value): bool => $value->chosen), 'value'))->toBe(['a']);
});

it('divides documents into groups as one by one, with sums and ranges', function () {
    mt_srand(61);
    for ($round = 0; $round < 40; $round++) {
        $collection = new Collection;
        $collection->fill(mt_rand(1, 60));
        $reader = new IndexReader($collection->store);
        $fields = $collection->schema->fields;
        $grouping = new Brenvic\Core\Search\Grouping($reader, $fields['depth']);
        $searcher = $collection->searcher();
        foreach ([['reach', null], ['reach', 'n'], ['library', null], ['dated', null], ['dated', '2019'], ['depth', null]] as [$code, $below]) {
            foreach ($grouping->of($reader->all(), $fields[$code], $below) as $group) {
                // A group is what its own criterion finds, among what is divided.
                $found = $searcher->documents(new Asker(['a', 'b', 'c']), $group->node)->documents();
                expect($found)->toHaveCount($group->count, "{$code} {$below} {$group->label}");
                $depths = array_map(floatval(...), array_merge([], ...array_map(fn (int $d): array => $collection->documents[$d]['depths'], $found)));
                expect($group->total)->toEqual($depths === [] ? null : ['sum' => (string) array_sum($depths), 'lowest' => (string) min($depths), 'highest' => (string) max($depths)]);
            }
        }
        $roots = array_filter($grouping->of($reader->all(), $fields['reach']), static fn ($group): bool => $group->label !== '');
        $byHand = array_filter(array_map(fn (string $root): int => count(array_filter($collection->documents, fn (array $d): bool => in_array($root, $collection->lineages($d), true))), ['n', 's']));
        expect(array_map(static fn ($group): int => $group->count, $roots))->toBe(array_values($byHand));
    }
});

it('puts words of one stem together, as Porter gives them', function (string $word, string $stem) {
    expect(Brenvic\Core\Index\Stemmer::stem($word))->toBe($stem);
})->with([
    ['caresses', 'caress'], ['ponies', 'poni'], ['cats', 'cat'], ['agreed', 'agre'], ['plastered', 'plaster'], ['motoring', 'motor'], ['sing', 'sing'],
    ['conflated', 'conflat'], ['hopping', 'hop'], ['falling', 'fall'], ['filing', 'file'], ['happy', 'happi'], ['sky', 'sky'],
    ['relational', 'relat'], ['valenci', 'valenc'], ['triplicate', 'triplic'], ['hopeful', 'hope'], ['goodness', 'good'], ['revival', 'reviv'],
    ['allowance', 'allow'], ['adoption', 'adopt'], ['replacement', 'replac'], ['rate', 'rate'], ['cease', 'ceas'], ['controll', 'control'], ['roll', 'roll'],
    ['seepage', 'seepag'], ['inspections', 'inspect'], ['inspected', 'inspect'], ['lk0417', 'lk0417'], ['é', 'é'],
]);

it('names what a word was widened to, and guesses at one that is nowhere', function () {
    mt_srand(31);
    $collection = new Collection;
    $collection->fill(60);
    $ask = static fn (string $cql) => $collection->searcher()->search(new Asker(['a', 'b', 'c']), new SearchRequest(Ledger::of(Parser::parse($cql)->root)))->lines[0]->variants[0];
    $stem = $ask('text =/stem/without=gates gate');
    expect(array_column($stem->words, 'on', 'word'))->toEqual(['gate' => true, 'gates' => false])->and($stem->suggested)->toBeFalse();
    $guess = $ask('text = seepge');
    expect($guess->suggested)->toBeTrue()->and($guess->words[0]['word'])->toBe('seepage')->and($guess->words[0]['count'])->toBeGreaterThan(0);
});

it('refuses what cannot be answered and names what was probably meant', function (string $cql, string $message) {
    $collection = new Collection;
    $collection->fill(5);
    expect(fn () => $collection->searcher()->search(new Asker(['a']), new SearchRequest(Ledger::of(Parser::parse($cql)->root))))
        ->toThrow(SearchError::class, $message);
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
    mt_srand(9);
    $store = new MemoryStore;
    $writer = new IndexWriter($store);
    $batch = [];
    for ($number = 1; $number <= 9_000; $number++) {
        $batch[] = new IndexedDocument($number * 9, [Part::Text->value => [str_repeat('gate ', mt_rand(0, 5)).str_repeat('sill ', mt_rand(0, 3)).str_repeat('x ', mt_rand(1, 20))]], ['library' => ['a']], [], []);
    }
    $writer->put($batch);
    $writer->flush();
    $reader = new IndexReader($store);
    $visible = $reader->all();
    $words = $reader->wordNumbers(['gate', 'sill']);
    $terms = array_map(static fn (int $word) => new Brenvic\Core\Search\RankedTerm([Part::Text->value], [$word => $visible->and($reader->words([Part::Text->value], [$word]))->count()]), array_values($words));
    $nearness = new Brenvic\Core\Search\RankedNearness([9 => 1, 27 => 4, 9_000 => 40]);
    $ranker = new Brenvic\Core\Search\Ranker($reader, $visible, $terms, [$nearness]);
    $slices = $ranker->scores($visible);
    $documents = $visible->documents();
    $scores = $ranker->scoresOf($documents);
    foreach ($documents as $document) {
        if ($slices->value($document) !== $scores[$document]) {
            $this->fail("document {$document}: {$slices->value($document)} by slices, {$scores[$document]} alone");
        }
    }
    usort($documents, static fn (int $a, int $b): int => $scores[$b] <=> $scores[$a] ?: $b <=> $a);
    $ordering = new Brenvic\Core\Search\SliceOrdering($slices, true);
    foreach ([0, 40, 4_000, 8_960] as $offset) {
        expect(Brenvic\Core\Search\Sorter::page($visible, [$ordering], $offset, 40))->toBe(array_slice($documents, $offset, 40));
    }
});
