<?php

declare(strict_types=1);

namespace Bench;

/** One question, as each engine is asked it. */
final readonly class Question
{
    /**
     * @param  string  $match  for FTS5; empty when no words are looked for
     * @param  string  $tsquery  for PostgreSQL
     * @param  string  $where  SQL condition on the fields
     * @param  list<mixed>  $tree  for Xapian: [operator, operand …], a word, or a prefixed term
     */
    public function __construct(
        public string $name,
        public string $cql,
        public string $match,
        public string $tsquery,
        public string $where,
        public array $tree,
    ) {
    }

    /** @return list<self> */
    public static function all(): array
    {
        $w = Corpus::word(...);
        [$veryCommon, $common, $other, $rare, $unwanted] = [...Corpus::pair(0), $w(160), $w(9_000), $w(20)];
        $mask = substr($w(300), 0, 3);
        $field = static fn (string $of, int ...$values): array => [
            'or',
            ...array_map(static fn (int $v): string => "X{$of}{$v}", array_values($values)),
        ];

        return [
            new self('everything', '', '', '', 'true', ['all']),
            new self('a very common word', $veryCommon, $veryCommon, $veryCommon, 'true', ['word', $veryCommon]),
            new self('a common word', $common, $common, $common, 'true', ['word', $common]),
            new self('a rare word', $rare, $rare, $rare, 'true', ['word', $rare]),
            new self(
                'very common and common',
                "{$veryCommon} and {$common}",
                "{$veryCommon} AND {$common}",
                "{$veryCommon} & {$common}",
                'true',
                ['and', ['word', $veryCommon], ['word', $common]],
            ),
            new self(
                'a word with a field and years',
                "{$common} and kind == 3 and dated within \"1980 1985\"",
                $common,
                $common,
                'kind = 3 AND year BETWEEN 1980 AND 1985',
                ['filter', ['word', $common], ['and', $field('kind', 3), $field('year', ...range(1980, 1985))]],
            ),
            new self('a phrase', "\"{$veryCommon} {$common}\"", "\"{$veryCommon} {$common}\"", "{$veryCommon} <-> {$common}", 'true', [
                'phrase',
                $veryCommon,
                $common,
            ]),
            new self(
                'two words near each other',
                "{$common} prox/unit=word/distance<=5 {$other}",
                "NEAR({$common} {$other}, 4)",
                self::within($common, $other, 5),
                'true',
                ['near', 6, $common, $other],
            ),
            new self(
                'several values, no text',
                '(kind == 1 or kind == 2) and (grade == 1 or grade == 2 or grade == 3)',
                '',
                '',
                'kind IN (1, 2) AND grade IN (1, 2, 3)',
                ['and', $field('kind', 1, 2), $field('grade', 1, 2, 3)],
            ),
            new self('a mask over hundreds of words', "{$mask}*", "{$mask}*", "{$mask}:*", 'true', ['mask', $mask]),
            new self(
                'or with not',
                "({$veryCommon} or {$common}) not {$unwanted}",
                "({$veryCommon} OR {$common}) NOT {$unwanted}",
                "({$veryCommon} | {$common}) & !{$unwanted}",
                'true',
                ['not', ['or', ['word', $veryCommon], ['word', $common]], ['word', $unwanted]],
            ),
            new self('one structure of 2,000', 'structure == 700', '', '', 'structure = 700', $field('structure', 700)),
        ];
    }

    /** PostgreSQL knows words exactly so far apart, and in one order only. */
    private static function within(string $a, string $b, int $most): string
    {
        $ways = [];
        for ($n = 1; $n <= $most; $n++) {
            array_push($ways, "({$a} <{$n}> {$b})", "({$b} <{$n}> {$a})");
        }

        return implode(' | ', $ways);
    }
}
