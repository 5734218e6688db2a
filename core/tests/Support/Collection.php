<?php

declare(strict_types=1);

namespace Brenvic\Core\Tests\Support;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Searcher;
use Closure;
use DateTimeImmutable;

/** A collection small enough to be searched by looking at every document. */
final class Collection
{
    private const WORDS = ['gate', 'lock', 'sill', 'seepage', 'gates', 'weir', 'silt', 'over', 'ash', 'sylt', 'locke'];

    /** What each reach is below, by hand: the inner basin belongs to the south as well. */
    private const BELOW = ['n' => ['n'], 'n1' => ['n1', 'n'], 'n11' => ['n11', 'n1', 's1', 'n', 's'], 's' => ['s'], 's1' => ['s1', 's']];

    public readonly SearchSchema $schema;

    /** @var array<int, array{text: list<string>, ends: list<int>, title: string, library: string, reaches: list<string>, depths: list<string>, dated: ?string}> ends: 1 where a sentence ends behind a word, 2 a paragraph */
    public array $documents = [];

    public function __construct(public IndexStore $store = new MemoryStore())
    {
        $reaches = new Vocabulary('reach', [
            new VocabularyTerm('n', 'North'),
            new VocabularyTerm('n1', 'North basin', 'n'),
            new VocabularyTerm('n11', 'Inner basin', 'n1', alsoBelow: ['s1']),
            new VocabularyTerm('s', 'South'),
            new VocabularyTerm('s1', 'South cut, north end', 's'),
        ]);
        $libraries = new Vocabulary('library', [new VocabularyTerm('a', 'A'), new VocabularyTerm('b', 'B'), new VocabularyTerm('c', 'C')]);
        $this->schema = new SearchSchema(
            [
                new FieldDefinition('library', 'Library', new ChoiceKind, faceted: true, vocabulary: $libraries, system: true),
                new FieldDefinition(
                    'reach',
                    'Reach',
                    new ChoiceKind,
                    multiple: true,
                    faceted: true,
                    vocabulary: $reaches,
                    dublinCore: 'coverage',
                ),
                new FieldDefinition('depth', 'Depth', new NumberKind, multiple: true, faceted: true),
                new FieldDefinition('dated', 'Dated', new DateKind, faceted: true, dublinCore: 'date'),
            ],
            calendar: new Calendar(new DateTimeImmutable('2020-05-20')),
            stamp: 'one',
        );
    }

    private static function word(): string
    {
        return self::WORDS[mt_rand(0, count(self::WORDS) - 1)];
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
            $text[] = self::word();
        }
        $ends = array_map(static fn (): int => max(0, mt_rand(-2, 2)), $text);
        $some = static fn (array $of): array => array_values(array_intersect_key($of, array_flip((array) array_rand($of, mt_rand(1, 2)))));
        $pick = static fn (array $of): ?string => $of[mt_rand(0, count($of) - 1)];

        return [
            'text' => $text,
            'ends' => $ends,
            'title' => self::word(),
            'library' => $pick(['a', 'b', 'c']),
            'reaches' => mt_rand(0, 3) === 0 ? [] : $some(['n', 'n1', 'n11', 's1']),
            'depths' => mt_rand(0, 3) === 0 ? [] : $some(['0', '0.5', '-2', '3']),
            'dated' => $pick([null, '2019', '2019-03', '2019-03-14', '2020-01-01', '2021-12-31']),
        ];
    }

    private function indexed(int $number): IndexedDocument
    {
        $d = $this->documents[$number];
        $values = array_filter(['reach' => $d['reaches'], 'depth' => $d['depths'], 'dated' => $d['dated'] === null ? [] : [$d['dated']]]);

        return DocumentEntries::of(
            new FiledDocument($number, $d['title'], self::written($d), $d['library'], $values),
            $this->schema->fields,
        );
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
        return array_values(
            array_unique(array_merge([], ...array_map(static fn (string $reach): array => self::BELOW[$reach], $d['reaches']))),
        );
    }

    /** @return array{string, Closure(array<string, mixed>): bool} a criterion and what it means */
    public function criterion(): array
    {
        $w = self::word();
        $v = self::word();
        $has = static fn (array $d, string $word): bool => in_array($word, $d['text'], true) || $d['title'] === $word;
        $sequence = static fn (array $d): bool => str_contains(' '.implode(' ', $d['text']).' ', " {$w} {$v} ");
        $below = fn (array $d, string $code): bool => in_array($code, $this->lineages($d), true);
        $depth = static fn (array $d, Closure $test): bool => array_filter(array_map(floatval(...), $d['depths']), $test) !== [];
        $day = static fn (?string $date): ?int => $date === null ? null : PartialDate::parse($date)->firstDay();
        $within = static fn (array $d, string $from, string $to): bool => $d['dated'] !== null &&
            $day($d['dated']) >= $day($from) &&
            $day($d['dated']) <= PartialDate::parse($to)->lastDay();
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
            [
                "text =/fuzzy=1 {$w}",
                static fn (array $d): bool => array_filter(
                    $d['text'],
                    static fn (string $o): bool => levenshtein($o, $w) <= min(1, intdiv(strlen($w), 3)),
                ) !== [],
            ],
            [
                "text =/phonetic {$w}",
                static fn (array $d): bool => array_filter($d['text'], static fn (string $o): bool => metaphone($o) === metaphone($w)) !== [],
            ],
            [
                "text =/phonetic {$w}",
                static fn (array $d): bool => array_filter($d['text'], static fn (string $o): bool => metaphone($o) === metaphone($w)) !== [],
            ],
            [
                "text =/stem \"gates {$v}\"",
                static fn (array $d): bool => preg_match(
                    '/(^| )gates? '.
                        match ($v) {
                            'gate', 'gates' => 'gates?',
                            'lock', 'locke' => 'locke?',
                            default => $v,
                        }.
                        '( |$)/',
                    implode(' ', $d['text']),
                ) === 1,
            ],
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
            [
                ">x=\"http://purl.org/dc/elements/1.1/\" (x.title = {$w} or x.coverage == s)",
                static fn (array $d): bool => $d['title'] === $w || $below($d, 's'),
            ],
            ["({$w} or title = {$v})", static fn (array $d): bool => $has($d, $w) || $d['title'] === $v],
            ['reach == n1', static fn (array $d): bool => $below($d, 'n1')],
            // What names a term asks for it, and not for another that has the word in its name.
            ['reach = North', static fn (array $d): bool => $below($d, 'n')],
            ['reach = "north end"', static fn (array $d): bool => in_array('s1', $d['reaches'], true)],
            ['reach ==/only n1', static fn (array $d): bool => in_array('n1', $d['reaches'], true)],
            ['reach == "nor*"', static fn (array $d): bool => $below($d, 'n') || $below($d, 'n1')],
            ['reach == "*"', static fn (array $d): bool => $d['reaches'] !== []],
            ['reach =/word "basin"', static fn (array $d): bool => array_intersect($d['reaches'], ['n1', 'n11']) !== []],
            ['(reach == "South" or reach == n11)', static fn (array $d): bool => $below($d, 's') || $below($d, 'n11')],
            ['reach = basin', static fn (array $d): bool => array_intersect($d['reaches'], ['n1', 'n11']) !== []],
            ['reach <> n1', static fn (array $d): bool => $d['reaches'] !== [] && ! $below($d, 'n1')],
            ['reach = "*asi*"', static fn (array $d): bool => array_intersect($d['reaches'], ['n1', 'n11']) !== []],
            ["title <> {$w}", static fn (array $d): bool => $d['title'] !== $w],
            ['text = "*at*"', static fn (array $d): bool => array_intersect($d['text'], ['gate', 'gates']) !== []],
            ["text = \"^*oc* {$v}\"", static fn (array $d): bool => preg_match("/^(lock|locke) {$v}( |$)/", implode(' ', $d['text'])) === 1],
            ["text = \"{$w}^\"", static fn (array $d): bool => ($d['text'][count($d['text']) - 1] ?? '') === $w],
            ['reach == ""', static fn (array $d): bool => $d['reaches'] === []],
            ['depth <> ""', static fn (array $d): bool => $d['depths'] !== []],
            ["depth >= {$bound}", static fn (array $d): bool => $depth($d, static fn (float $v): bool => $v >= (float) $bound)],
            ["depth < {$bound}", static fn (array $d): bool => $depth($d, static fn (float $v): bool => $v < (float) $bound)],
            ["depth = {$bound}", static fn (array $d): bool => $depth($d, static fn (float $v): bool => $v === (float) $bound)],
            [
                "depth <> {$bound}",
                static fn (array $d): bool => $d['depths'] !== [] && ! $depth($d, static fn (float $v): bool => $v === (float) $bound),
            ],
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
        $names = $this->names();

        $reader = new IndexReader($this->store);
        // Facets are counted from columns that are at hand, else from records.
        foreach (mt_rand(0, 1) === 0 ? ['library', 'reach', 'dated'] : [] as $field) {
            $reader->column($field, 0, 0, 0);
        }

        return new Searcher($reader, $this->schema, $names);
    }

    public function names(): DocumentNames
    {
        return new class($this) implements DocumentNames
        {
            public function __construct(private readonly Collection $of)
            {
            }

            public function of(string $name, array $documents): array
            {
                return array_column(
                    array_map(
                        fn (int $d): array => [$d, $this->of->documents[$d]['title']],
                        array_filter($documents, fn (int $d): bool => isset($this->of->documents[$d])),
                    ),
                    1,
                    0,
                );
            }
        };
    }
}
