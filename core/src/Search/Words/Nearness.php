<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

use Brenvic\Core\Index\Breaks;
use Brenvic\Core\Index\Stream;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchFault;

/**
 * Two sequences of words at most so far from each other (CQL `prox`). Words are counted from one to the other, so that
 * neighbours are 1 apart; sentences and paragraphs likewise, so that 0 is the same one. Without a distance it is one
 * word, or the same sentence or paragraph. Nothing reaches from one text of a part into the next.
 */
final readonly class Nearness implements StreamTest
{
    private const MOST_DIGITS = 6;

    /** So many pairs of positions are compared one by one. */
    private const FEW = 16;

    private function __construct(
        private WordSequence $left,
        private WordSequence $right,
        private NearnessUnit $unit,
        private int $least,
        private int $most,
        private bool $ordered,
    ) {
    }

    /**
     * @param  list<Modifier>  $modifiers
     *
     * @throws SearchError
     */
    public static function ofModifiers(array $modifiers, WordSequence $left, WordSequence $right): self
    {
        $unit = NearnessUnit::Word;
        $distance = null;
        $ordered = false;
        foreach ($modifiers as $modifier) {
            $value = strtolower($modifier->value ?? '');
            switch ($modifier->name) {
                case 'unit':
                    $unit =
                        NearnessUnit::tryFrom($value) ??
                        throw new SearchError(
                            "prox counts in words, sentences or paragraphs, not in “{$value}”.",
                            'unit=word',
                            SearchFault::BooleanModifier,
                        );
                    break;
                case 'distance':
                    $distance = $modifier;
                    break;
                case 'ordered':
                    $ordered = true;
                    break;
                case 'unordered':
                    $ordered = false;
                    break;
                default:
                    throw new SearchError(
                        "prox does not know /{$modifier->name}. It takes unit, distance, ordered and unordered.",
                        fault: SearchFault::BooleanModifier,
                    );
            }
        }
        [$least, $most] = $distance === null ? ($unit === NearnessUnit::Word ? [1, 1] : [0, 0]) : self::range($distance);

        return new self($left, $right, $unit, $least, $most, $ordered);
    }

    /** @return array{int, int} */
    private static function range(Modifier $distance): array
    {
        $value = $distance->value ?? '';
        if (! ctype_digit($value) || strlen($value) > self::MOST_DIGITS) {
            throw new SearchError("The distance of prox is a whole number, not “{$value}”.", fault: SearchFault::BooleanModifier);
        }
        $number = (int) $value;

        return match ($distance->comparitor) {
            '<' => [0, $number - 1],
            '<=' => [0, $number],
            '>' => [$number + 1, PHP_INT_MAX],
            '>=' => [$number, PHP_INT_MAX],
            '=', '==' => [$number, $number],
            default => throw new SearchError(
                "The distance of prox is compared by =, <, <=, > or >=, not by “{$distance->comparitor}”.",
                fault: SearchFault::BooleanModifier,
            ),
        };
    }

    public function needles(array $widths): array
    {
        return $this->left->needles($widths) ?: $this->right->needles($widths);
    }

    public function distance(Stream $stream): ?int
    {
        $rights = $this->right->positions($stream);
        $lefts = $rights === [] ? [] : $this->left->positions($stream);
        if ($lefts === []) {
            return null;
        }
        if ($this->unit === NearnessUnit::Word && $this->isFar($lefts, $rights)) {
            return null;
        }
        $texts = $stream->texts();
        $units = $this->unit === NearnessUnit::Word ? [] : $this->units($stream->breaks, $texts);
        $nearest = null;
        foreach ($lefts as $left) {
            $text = self::place($texts, $left);
            $from = $texts[$text];
            $to = ($texts[$text + 1] ?? PHP_INT_MAX) - 1;
            foreach ($this->windows($left, $units) as [$low, $high, $forward]) {
                $right = self::nearest($rights, max($from, $low), min($to, $high), $forward);
                if ($right !== null) {
                    $apart = max(0, $forward ? $right - $left - $this->left->length() + 1 : $left - $right - $this->right->length() + 1);
                    $nearest = $nearest === null ? $apart : min($nearest, $apart);
                }
            }
        }

        return $nearest;
    }

    /**
     * Whether a look at a few positions shows that none are near enough, which most candidates need no more for.
     *
     * @param  non-empty-list<int>  $lefts
     * @param  non-empty-list<int>  $rights
     */
    private function isFar(array $lefts, array $rights): bool
    {
        if (count($lefts) * count($rights) > self::FEW || $this->most === PHP_INT_MAX) {
            return false;
        }
        $reach = $this->most + max($this->left->length(), $this->right->length());
        foreach ($lefts as $left) {
            foreach ($rights as $right) {
                if (abs($right - $left) <= $reach) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * Where the right sequence may begin for a left one that begins at `$left`.
     *
     * @param  list<int>  $units  where sentences or paragraphs begin; none when words are counted
     * @return list<array{int, int, bool}> first and last position, and whether it lies behind the left one
     */
    private function windows(int $left, array $units): array
    {
        if ($units === []) {
            $behind = $left + $this->left->length() - 1;
            $before = $left - $this->right->length() + 1;
            $windows = [
                [max($left + 1, $behind + $this->least), self::sum($behind, $this->most), true],
                [self::sum($before, -$this->most), min($left - 1, $before - $this->least), false],
            ];
        } else {
            $here = self::place($units, $left);
            $windows = [
                [
                    max($left + 1, $units[$here + $this->least] ?? PHP_INT_MAX),
                    ($units[self::sum($here + 1, $this->most)] ?? PHP_INT_MAX) - 1,
                    true,
                ],
                [
                    $units[max(0, self::sum($here, -$this->most))],
                    min($left - 1, $here < $this->least ? -1 : ($units[$here - $this->least + 1] ?? PHP_INT_MAX) - 1),
                    false,
                ],
            ];
        }

        return $this->ordered ? [$windows[0]] : $windows;
    }

    /** A sum in which PHP_INT_MAX stands for no bound. */
    private static function sum(int $position, int $distance): int
    {
        return match ($distance) {
            PHP_INT_MAX => PHP_INT_MAX,
            -PHP_INT_MAX => 0,
            default => $position + $distance,
        };
    }

    /**
     * Of positions within a window the one nearest to its inner end.
     *
     * @param  non-empty-list<int>  $positions  ascending
     */
    private static function nearest(array $positions, int $low, int $high, bool $forward): ?int
    {
        if ($low > $high) {
            return null;
        }
        $at = self::place($positions, $forward ? $low - 1 : $high);
        if ($forward && $positions[$at] < $low) {
            $at++;
        }
        $position = $positions[$at] ?? null;

        return $position !== null && $position >= $low && $position <= $high ? $position : null;
    }

    /**
     * @param  list<int>  $texts
     * @return list<int>
     */
    private function units(string $breaks, array $texts): array
    {
        if ($breaks === '') {
            return $texts;
        }
        [$sentences, $paragraphs] = Breaks::starts($breaks);

        return $this->unit === NearnessUnit::Sentence ? $sentences : $paragraphs;
    }

    /**
     * In which of the stretches that begin at `$starts` a position lies.
     *
     * @param  list<int>  $starts
     */
    private static function place(array $starts, int $position): int
    {
        [$low, $high] = [0, count($starts) - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            if ($starts[$middle] <= $position) {
                $low = $middle;
            } else {
                $high = $middle - 1;
            }
        }

        return $low;
    }
}
