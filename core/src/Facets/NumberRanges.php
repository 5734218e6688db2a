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
        $bins = self::histogram($slots[0], $set->and($slots[0]->present));
        if ($bins === []) {
            return [];
        }
        $ranges = [];
        $starts = self::breaks($bins);
        foreach ($starts as $i => $from) {
            $to = isset($starts[$i + 1]) ? $starts[$i + 1] - 1 : $bins[count($bins) - 1][1];
            $count = DocumentSet::union(array_map(static fn (BitSlices $slices): DocumentSet => $slices->between($from, $to), $slots))->and($set)->count();
            if ($count > 0) {
                $ranges[] = new FacetRange(FieldDefinition::numberOfOrdinal($from), FieldDefinition::numberOfOrdinal($to), $count);
            }
        }

        return $ranges;
    }

    /** @return list<array{int, int, int}> lowest and highest number that can be in a bin, documents in it; ascending */
    private static function histogram(BitSlices $slices, DocumentSet $set): array
    {
        $open = [[$set, 0, $slices->width() - 1, $set->count()]];
        $closed = [];
        while ($open !== [] && count($open) + count($closed) < self::BINS) {
            $fullest = 0;
            foreach ($open as $i => $bin) {
                $fullest = $bin[3] > $open[$fullest][3] ? $i : $fullest;
            }
            [$documents, $low, $digit, $count] = $open[$fullest];
            unset($open[$fullest]);
            $open = array_values($open);
            if ($count === 0) {
                continue;
            }
            if ($digit < 0) {
                $closed[] = [$low, $low, $count];

                continue;
            }
            $ones = $documents->and($slices->digit($digit));
            $above = $ones->count();
            if ($above > 0) {
                $open[] = [$ones, $low | 1 << $digit, $digit - 1, $above];
            }
            if ($above < $count) {
                $open[] = [$above === 0 ? $documents : $documents->minus($ones), $low, $digit - 1, $count - $above];
            }
        }
        foreach ($open as [, $low, $digit, $count]) {
            if ($count > 0) {
                $closed[] = [$low, $low + (1 << $digit + 1) - 1, $count];
            }
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
