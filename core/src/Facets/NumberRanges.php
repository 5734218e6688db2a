<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;

/**
 * Cuts the numbers of a set into ranges with natural breaks. A histogram comes out of the bit slices by halving the
 * fullest bin until there are enough; its bins are joined so that the squared distances to the mean of each class are
 * least (W. D. Fisher, “On grouping for maximum homogeneity”, Journal of the American Statistical Association 53,
 * 1958; used for maps by G. F. Jenks). Breaks are rounded to short numbers between the bins.
 */
final class NumberRanges
{
    private const CLASSES = 5;

    private const BINS = 32;

    /**
     * @param  non-empty-list<BitSlices>  $slots  the field's ordinals; breaks are made from the first of each document
     * @return list<FacetRange> those that hold any document, ascending
     */
    public static function of(array $slots, DocumentSet $set): array
    {
        $bins = self::histogram(new SlicedPile($slots[0], $set->and($slots[0]->present)));

        // Of documents with several numbers some are in more than one range, and those are counted one by one.
        return self::ranges($bins, count($slots) === 1 ? null : static fn (int $from, int $to): int => DocumentSet::union(array_map(static fn (BitSlices $slices): DocumentSet => $slices->between($from, $to), $slots))->countCommon($set));
    }

    /**
     * The same from lists.
     *
     * @param  list<list<int>>  $numbers  the ordinals of each document, ascending
     * @return list<FacetRange>
     */
    public static function ofNumbers(array $numbers): array
    {
        $numbers = array_values(array_filter($numbers));
        $first = array_column($numbers, 0);
        sort($first);
        $bins = self::histogram(new ListedPile($first, 0, count($first)));
        $isSeveral = count($numbers, COUNT_RECURSIVE) > 2 * count($numbers);

        return self::ranges($bins, ! $isSeveral ? null : static fn (int $from, int $to): int => count(array_filter($numbers, static fn (array $of): bool => array_filter($of, static fn (int $number): bool => $number >= $from && $number <= $to) !== [])));
    }

    /**
     * @param  list<array{int, int, int}>  $bins
     * @param  (callable(int, int): int)|null  $count  documents that have a number from one to another; null when each is in one bin
     * @return list<FacetRange>
     */
    private static function ranges(array $bins, ?callable $count): array
    {
        if ($bins === []) {
            return [];
        }
        $ranges = [];
        $starts = self::breaks($bins);
        foreach ($starts as $i => $from) {
            $to = isset($starts[$i + 1]) ? $starts[$i + 1] - 1 : $bins[count($bins) - 1][1];
            // Ranges end between bins.
            $here = $count !== null ? $count($from, $to) : array_sum(array_map(static fn (array $bin): int => $bin[0] >= $from && $bin[1] <= $to ? $bin[2] : 0, $bins));
            if ($here > 0) {
                $ranges[] = new FacetRange(FieldDefinition::numberOfOrdinal($from), FieldDefinition::numberOfOrdinal($to), $here);
            }
        }

        return $ranges;
    }

    /** @return list<array{int, int, int}> lowest and highest number that can be in a bin, how many are in it; ascending */
    private static function histogram(Pile $pile): array
    {
        if ($pile->count() === 0) {
            return [];
        }
        // What all have alike above says nothing.
        $low = 0;
        for ($digit = $pile->top(); $digit >= 0; $digit--) {
            [$below, $above] = $pile->split($digit);
            if ($below !== null && $above !== null) {
                break;
            }
            $low |= $above === null ? 0 : 1 << $digit;
        }
        $open = [[$pile, $low, $digit, $pile->count()]];
        $closed = [];
        while ($open !== [] && count($open) + count($closed) < self::BINS) {
            $fullest = 0;
            foreach ($open as $i => $bin) {
                $fullest = $bin[3] > $open[$fullest][3] ? $i : $fullest;
            }
            [$of, $low, $digit, $count] = $open[$fullest];
            unset($open[$fullest]);
            $open = array_values($open);
            if ($digit < 0) {
                $closed[] = [$low, $low, $count];

                continue;
            }
            [$below, $above] = $of->split($digit);
            if ($above !== null) {
                $open[] = [$above, $low | 1 << $digit, $digit - 1, $above->count()];
            }
            if ($below !== null) {
                $open[] = [$below, $low, $digit - 1, $below->count()];
            }
        }
        foreach ($open as [, $low, $digit, $count]) {
            $closed[] = [$low, $low + (1 << $digit + 1) - 1, $count];
        }
        sort($closed);

        return $closed;
    }

    /**
     * Where each class begins.
     *
     * @param  non-empty-list<array{int, int, int}>  $bins
     * @return non-empty-list<int>
     */
    private static function breaks(array $bins): array
    {
        $count = count($bins);
        $classes = min(self::CLASSES, $count);
        $origin = $bins[0][0];
        [$n, $sum, $squares] = [[0], [0.0], [0.0]];
        foreach ($bins as $i => [$low, $high, $documents]) {
            $middle = ($low + $high) / 2 - $origin;
            $n[] = $n[$i] + $documents;
            $sum[] = $sum[$i] + $documents * $middle;
            $squares[] = $squares[$i] + $documents * $middle ** 2;
        }
        // Squared distances to the mean within the bins from $i up to, not with, $j.
        $spread = static fn (int $i, int $j): float => $squares[$j] - $squares[$i] - ($sum[$j] - $sum[$i]) ** 2 / ($n[$j] - $n[$i]);
        $best = [0 => array_merge([0.0], array_fill(0, $count, INF))];
        $cut = [];
        for ($class = 1; $class <= $classes; $class++) {
            $best[$class] = array_fill(0, $count + 1, INF);
            for ($j = $class; $j <= $count; $j++) {
                for ($i = $class - 1; $i < $j; $i++) {
                    $cost = $best[$class - 1][$i] + $spread($i, $j);
                    if ($cost < $best[$class][$j]) {
                        $best[$class][$j] = $cost;
                        $cut[$class][$j] = $i;
                    }
                }
            }
        }
        $starts = [];
        for ($class = $classes, $j = $count; $class > 1; $class--) {
            $j = $cut[$class][$j];
            array_unshift($starts, self::shortBetween($bins[$j - 1][1] + 1, $bins[$j][0]));
        }

        return [$origin, ...$starts];
    }

    /** The number with the fewest digits from `$low` to `$high` (ordinals). */
    private static function shortBetween(int $low, int $high): int
    {
        $zero = FieldDefinition::numberOrdinal(0);
        for ($step = 10 ** 16; $step >= 1; $step = intdiv($step, 10)) {
            foreach ([$step, intdiv($step, 2)] as $grain) {
                if ($grain < 1) {
                    continue;
                }
                $candidate = $zero + (int) ceil(($low - $zero) / $grain) * $grain;
                if ($candidate >= $low && $candidate <= $high) {
                    return $candidate;
                }
            }
        }

        return $high;
    }
}
