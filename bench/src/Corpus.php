<?php

declare(strict_types=1);

namespace Bench;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Random\Engine\PcgOneseq128XslRr64;
use Random\Randomizer;

/**
 * A collection that is the same on every run: a title of six words and a text of 20 to 60, out of 50,000 with frequencies
 * like those of language (the n-th about 1/n as often as the first); 300 pairs of words that stand together time and
 * again, as “lock gate” does; seven fields whose values are as uneven, an amount, a date, and eight libraries.
 */
final class Corpus
{
    private const WORDS = 50_000;

    /** field => number of values; `reach` is a tree with ten branches */
    public const FIELDS = [
        'library' => 8,
        'kind' => 12,
        'reach' => 40,
        'structure' => 2_000,
        'place' => 60,
        'vessel' => 300,
        'grade' => 5,
        'language' => 4,
    ];

    private const TITLE = 6;

    private const PAIRS = 300;

    /** Of so many texts one has a pair. */
    private const PAIR_EVERY = 4;

    /** @var list<float> cumulative */
    private array $chances = [];

    /** @var array<int, list<float>> number of values => cumulative */
    private array $uneven = [];

    public function __construct(public readonly int $documents)
    {
        $sum = 0.0;
        for ($n = 1; $n <= self::WORDS; $n++) {
            $sum += 1 / ($n + 2.7);
            $this->chances[] = $sum;
        }
    }

    public static function word(int $rank): string
    {
        $letters = 'bcdfghklmnprstvz';
        $vowels = 'aeiou';
        $word = '';
        for ($rest = $rank + 17; $rest > 0; $rest = intdiv($rest, 80)) {
            $word .= $letters[$rest % 16].$vowels[intdiv($rest, 16) % 5];
        }

        return $word;
    }

    /** @return array{string, string} the words of a fixed pair, the most frequent first */
    public static function pair(int $number): array
    {
        return [self::word(10 + $number), self::word(140 + 3 * $number)];
    }

    /** @return iterable<int, array{title: string, text: string, values: array<string, int>, day: int, amount: int}> by number, from 1 */
    public function documents(): iterable
    {
        $chance = new Randomizer(new PcgOneseq128XslRr64(20_240_314));
        $words = [];
        for ($rank = 1; $rank <= self::WORDS; $rank++) {
            $words[] = self::word($rank);
        }
        $top = $this->chances[self::WORDS - 1];
        for ($number = 1; $number <= $this->documents; $number++) {
            $some = fn (int $many): array => array_map(
                fn (): string => $words[self::place($this->chances, ($chance->getInt(0, PHP_INT_MAX) / PHP_INT_MAX) * $top)],
                range(1, $many),
            );
            $title = $some(self::TITLE);
            $text = $some($chance->getInt(20, 60));
            if ($chance->getInt(1, self::PAIR_EVERY) === 1) {
                array_splice($text, $chance->getInt(0, count($text)), 0, self::pair($this->uneven($chance, self::PAIRS) - 1));
            }
            $values = [];
            foreach (self::FIELDS as $field => $count) {
                $values[$field] = $this->uneven($chance, $count);
            }

            yield $number => [
                'title' => implode(' ', $title),
                'text' => implode(' ', $text),
                'values' => $values,
                'day' => 720_000 + $chance->getInt(0, 9_000),
                'amount' => $chance->getInt(1, 500_000),
            ];
        }
    }

    /** One of so many values; the n-th about 1/n as often as the first. */
    private function uneven(Randomizer $chance, int $count): int
    {
        if (! isset($this->uneven[$count])) {
            $sum = 0.0;
            for ($n = 1; $n <= $count; $n++) {
                $sum += 1 / ($n + 1);
                $this->uneven[$count][] = $sum;
            }
        }

        return self::place($this->uneven[$count], ($chance->getInt(0, PHP_INT_MAX) / PHP_INT_MAX) * $this->uneven[$count][$count - 1]) + 1;
    }

    /** @param  list<float>  $chances  cumulative */
    private static function place(array $chances, float $at): int
    {
        [$low, $high] = [0, count($chances) - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($chances[$middle] < $at) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }

    /** @return list<FieldDefinition> */
    public static function definitions(): array
    {
        $definitions = [];
        foreach (self::FIELDS as $field => $count) {
            $terms = [];
            if ($field === 'reach') {
                for ($i = 1; $i <= 10; $i++) {
                    $terms[] = new VocabularyTerm("b{$i}", "Branch {$i}");
                }
            }
            for ($i = 1; $i <= $count; $i++) {
                $terms[] = new VocabularyTerm("{$i}", "{$field} {$i}", $field === 'reach' ? 'b'.(($i % 10) + 1) : null);
            }
            $definitions[] = new FieldDefinition(
                $field,
                ucfirst($field),
                new ChoiceKind,
                faceted: true,
                vocabulary: new Vocabulary($field, $terms),
                system: true,
            );
        }
        $definitions[] = new FieldDefinition('dated', 'Dated', new DateKind, faceted: true);
        $definitions[] = new FieldDefinition('amount', 'Amount', new NumberKind);

        return $definitions;
    }
}
