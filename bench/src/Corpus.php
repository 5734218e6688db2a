<?php

declare(strict_types=1);

namespace Bench;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Random\Engine\PcgOneseq128XslRr64;
use Random\Randomizer;

/**
 * A collection that is the same on every run: 20 to 60 words a document out of 50,000 with frequencies like those of
 * language (the n-th word about 1/n as often as the first), seven fields, an amount, a date, and eight libraries.
 */
final class Corpus
{
    private const WORDS = 50_000;

    /** field => number of values; `reach` is a tree with ten branches */
    public const FIELDS = ['library' => 8, 'kind' => 12, 'reach' => 40, 'structure' => 2_000, 'place' => 60, 'vessel' => 300, 'grade' => 5, 'language' => 4];

    /** @var list<float> cumulative */
    private array $chances = [];

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

    /** @return iterable<int, array{text: string, values: array<string, int>, day: int, amount: int}> by number, from 1 */
    public function documents(): iterable
    {
        $chance = new Randomizer(new PcgOneseq128XslRr64(20_240_314));
        $words = [];
        for ($rank = 1; $rank <= self::WORDS; $rank++) {
            $words[] = self::word($rank);
        }
        $top = $this->chances[self::WORDS - 1];
        for ($number = 1; $number <= $this->documents; $number++) {
            $text = [];
            for ($n = $chance->getInt(20, 60); $n > 0; $n--) {
                $text[] = $words[$this->rank($chance->getInt(0, PHP_INT_MAX) / PHP_INT_MAX * $top)];
            }
            $values = [];
            foreach (self::FIELDS as $field => $count) {
                $values[$field] = $chance->getInt(1, $count);
            }

            yield $number => ['text' => implode(' ', $text), 'values' => $values, 'day' => 720_000 + $chance->getInt(0, 9_000), 'amount' => $chance->getInt(1, 500_000)];
        }
    }

    private function rank(float $at): int
    {
        [$low, $high] = [0, self::WORDS - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($this->chances[$middle] < $at) {
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
                $terms[] = new VocabularyTerm("{$i}", "{$field} {$i}", $field === 'reach' ? 'b'.($i % 10 + 1) : null);
            }
            $definitions[] = new FieldDefinition($field, ucfirst($field), FieldKind::Choice, faceted: true, vocabulary: new Vocabulary($field, $terms), system: true);
        }
        $definitions[] = new FieldDefinition('dated', 'Dated', FieldKind::Date, faceted: true);
        $definitions[] = new FieldDefinition('amount', 'Amount', FieldKind::Number);

        return $definitions;
    }
}
