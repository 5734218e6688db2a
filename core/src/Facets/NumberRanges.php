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
 * 1958; used for maps by G. F. Jenks). Breaks are the shortest numbers from the middle of one bin to that of the next.
 */
final class NumberRanges
{
    private const CLASSES = 5;

    private const BINS = 32;

    /** Places behind the point that an ordinal has. */
    private const PLACES = 4;

    /** How many numbers are looked at to know their places. */
    private const SAMPLE = 100;

    /** Up to so wide (as an ordinal) a range of whole numbers is said with its last one: 13 to 19, but 20 000 to 30 000. */
    private const COUNTED = 100 * 10 ** self::PLACES;

    /** The part of a range that its outer end may lie outside of the numbers, to be a short one. */
    private const OUTSIDE = 8;

    /**
     * @param  non-empty-list<BitSlices>  $slots  the field's ordinals; breaks are made from the first of each document
     * @return list<FacetRange> those that hold any document, ascending
     */
    public static function of(array $slots, DocumentSet $set): array
    {
        $pile = new SlicedPile($slots[0], $set->and($slots[0]->present));
        if ($pile->count() === 0) {
            return [];
        }
        $with = array_filter(
            array_map(static fn (BitSlices $slices): DocumentSet => $set->and($slices->present), $slots),
            static fn (DocumentSet $of): bool => ! $of->isEmpty(),
        );

        $lowest = $slots[0]->extreme($with[0], false);
        $highest = array_reduce(
            array_keys($with),
            static fn (int $highest, int $slot): int => max($highest, $slots[$slot]->extreme($with[$slot], true)),
            0,
        );

        return self::ranges(
            $pile,
            $lowest,
            $highest,
            array_sum(array_map(static fn (DocumentSet $of): int => $of->count(), $with)),
            static function (int $from, int $to) use ($slots, $with, $lowest, $highest): array {
                // Outside of all numbers there is nothing to compare.
                $sets = array_map(
                    static fn (int $slot): DocumentSet => $slots[$slot]
                        ->between($from > $lowest ? $from : null, $to < $highest ? $to : null)
                        ->and($with[$slot]),
                    array_keys($with),
                );

                return [DocumentSet::union($sets)->count(), array_sum(array_map(static fn (DocumentSet $of): int => $of->count(), $sets))];
            },
        );
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
        if ($numbers === []) {
            return [];
        }
        $first = array_column($numbers, 0);
        sort($first);

        return self::ranges(
            new ListedPile($first, 0, count($first)),
            $first[0],
            max(array_map(static fn (array $of): int => $of[count($of) - 1], $numbers)),
            count($numbers, COUNT_RECURSIVE) - count($numbers),
            static function (int $from, int $to) use ($numbers): array {
                $counts = array_filter(
                    array_map(
                        static fn (array $of): int => count(
                            array_filter($of, static fn (int $number): bool => $number >= $from && $number <= $to),
                        ),
                        $numbers,
                    ),
                );

                return [count($counts), array_sum($counts)];
            },
        );
    }

    /**
     * @param  int  $numbers  how many there are
     * @param  callable(int, int): array{int, int}  $count  the documents that have a number from one to another, and how many such numbers there are
     * @return list<FacetRange>
     */
    private static function ranges(Pile $pile, int $lowest, int $highest, int $numbers, callable $count): array
    {
        $starts = self::breaks(self::histogram($pile), $lowest, $highest);
        $places = self::places($pile->some(self::SAMPLE));
        // Between whole numbers nothing lies: a range ends with the last before the next begins. But some are looked at
        // only, so if any number is in none of the ranges, these must reach up to the next.
        foreach (array_unique([$places, self::PLACES]) as $places) {
            $ranges = [];
            $found = 0;
            foreach (array_slice($starts, 0, -1) as $i => $from) {
                $isLast = $i === count($starts) - 2;
                $next = $starts[$i + 1];
                $to = $isLast ? $next : $next - 10 ** (self::PLACES - $places);
                [$documents, $here] = $count($from, $to);
                $found += $here;
                if ($documents > 0) {
                    $ranges[] = new FacetRange(
                        FieldDefinition::numberOfOrdinal($from),
                        FieldDefinition::numberOfOrdinal($to),
                        FieldDefinition::numberOfOrdinal($isLast || ($places === 0 && $next - $from <= self::COUNTED) ? $to : $next),
                        $documents,
                    );
                }
            }
            if ($found === $numbers) {
                break;
            }
        }

        return $ranges;
    }

    /**
     * How many places behind the point numbers have.
     *
     * @param  list<int>  $ordinals
     */
    private static function places(array $ordinals): int
    {
        $zero = FieldDefinition::numberOrdinal(0);
        for ($places = 0; $places < self::PLACES; $places++) {
            $unit = 10 ** (self::PLACES - $places);
            if (array_filter($ordinals, static fn (int $ordinal): bool => ($ordinal - $zero) % $unit !== 0) === []) {
                break;
            }
        }

        return $places;
    }

    /** @return non-empty-list<array{int, int, int}> lowest and highest number that can be in a bin, how many are in it; ascending */
    private static function histogram(Pile $pile): array
    {
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
                $open[] = [$above, $low | (1 << $digit), $digit - 1, $above->count()];
            }
            if ($below !== null) {
                $open[] = [$below, $low, $digit - 1, $below->count()];
            }
        }
        foreach ($open as [, $low, $digit, $count]) {
            $closed[] = [$low, $low + (1 << ($digit + 1)) - 1, $count];
        }
        sort($closed);

        /** @var non-empty-list<array{int, int, int}> */
        return $closed;
    }

    /**
     * Where each class begins, and where the last ends.
     *
     * @param  non-empty-list<array{int, int, int}>  $bins
     * @return non-empty-list<int>
     */
    private static function breaks(array $bins, int $lowest, int $highest): array
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
            [$before, $after] = [$bins[$j - 1], $bins[$j]];
            array_unshift(
                $starts,
                self::shortBetween(
                    max($lowest, $before[0] + intdiv($before[1] - $before[0], 2)) + 1,
                    $after[0] + intdiv($after[1] - $after[0], 2),
                ),
            );
        }
        $zero = FieldDefinition::numberOrdinal(0);
        $below = $lowest - intdiv(($starts[0] ?? $highest) - $lowest, self::OUTSIDE);
        $above = $highest + intdiv($highest - ($starts[count($starts) - 1] ?? $lowest), self::OUTSIDE);

        // No end on the other side of zero.
        return [
            self::shortBetween($lowest >= $zero ? max($zero, $below) : $below, $lowest),
            ...$starts,
            self::shortBetween($highest, $highest <= $zero ? min($zero, $above) : $above),
        ];
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
                $candidate = $zero + self::roundedUp($low - $zero, $grain);
                if ($candidate >= $low && $candidate <= $high) {
                    return $candidate;
                }
            }
        }

        return $high;
    }

    /** In whole numbers: a float would lose the last digits. */
    private static function roundedUp(int $number, int $grain): int
    {
        $rest = $number % $grain;

        return $number - $rest + ($rest > 0 ? $grain : 0);
    }
}
