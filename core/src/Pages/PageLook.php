<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/**
 * What is seen of a scanned page without reading it: whether anything stands on it, and how far it is askew. Its raster has
 * about 100 points an inch.
 */
final readonly class PageLook
{
    /** So much darker than the paper is ink: what shines through from the other side is paler. */
    private const INK = 70;

    /** Paper darker than this is a picture, and no picture is blank. */
    private const DARK = 110;

    /** The share of the width and height at each edge where holes, staples and shadows are. */
    private const EDGE = 0.08;

    /** Points of a side of the squares in which ink is counted: a square with a speck or two is empty. */
    private const SQUARE = 16;

    /** Points in a square from which on something stands there. */
    private const WRITTEN = 8;

    /** Squares that may be written on a page that is blank: a fleck is in one or two. */
    private const FLECKS = 2;

    /** Degrees to each side in which a page may be askew. */
    private const WIDEST = 8.0;

    /** Degrees below which nobody sees it. */
    private const SLIGHT = 0.25;

    /** Points that tell how a page lies; more tell no more. */
    private const POINTS = 12_000;

    /** Points of less than some lines of writing. */
    private const FEW = 300;

    /** How much clearer its lines must be where it is straight than on the average of all angles. */
    private const CLEAR = 1.6;

    /** Steps to each side in which the angle is told finely, and degrees of a step. */
    private const FINE = 12;

    private const FINE_STEP = 0.06;

    /** The share of the greatest clearness from which on an angle is as clear. */
    private const AS_CLEAR = 0.85;

    private function __construct(public bool $isBlank, public float $skew)
    {
    }

    /** `skew` is in degrees clockwise, as the page lies; 0 where it is straight or cannot be told. */
    public static function at(Raster $page): self
    {
        $ink = $page->paper() < self::DARK ? null : $page->paper() - self::INK;
        if ($ink === null) {
            return new self(false, 0.0);
        }
        $isBlank = self::isBlank($page, $ink);

        return new self($isBlank, $isBlank ? 0.0 : self::skew($page, $ink));
    }

    private static function isBlank(Raster $page, int $ink): bool
    {
        $left = (int) ($page->width * self::EDGE);
        $top = (int) ($page->height * self::EDGE);
        $width = $page->width - 2 * $left;
        $dark = self::upTo($ink);
        $counts = [];
        $written = 0;
        for ($y = $top; $y < $page->height - $top; $y++) {
            $row = substr($page->grey, $y * $page->width + $left, $width);
            for ($x = strcspn($row, $dark); $x < $width; $x += 1 + strcspn($row, $dark, $x + 1)) {
                $square = intdiv($y, self::SQUARE) * 4_096 + intdiv($x, self::SQUARE);
                $counts[$square] = ($counts[$square] ?? 0) + 1;
                if ($counts[$square] === self::WRITTEN && ++$written > self::FLECKS) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * By the profile of projections (Postl 1986): where lines of writing lie level, rows full of their feet and empty rows
     * alternate, so that the squares of what each row holds add up to most. The feet are dark points with none below.
     */
    private static function skew(Raster $page, int $ink): float
    {
        $points = self::feet($page, $ink);
        if (count($points) < self::FEW) {
            return 0.0;
        }
        $all = [];
        for ($step = -16; $step <= 16; $step++) {
            $all[$step] = self::clearness($points, $step * self::WIDEST / 16);
        }
        $best = (int) array_search(max($all), $all, true);
        if (abs($best) === 16 || $all[$best] < self::CLEAR * array_sum($all) / count($all)) {
            return 0.0;
        }
        // Rows are whole points, so that angles near the right one are as clear: it is in the middle of them.
        $around = [];
        for ($step = -self::FINE; $step <= self::FINE; $step++) {
            $around[$step] = self::clearness($points, $best * self::WIDEST / 16 + $step * self::FINE_STEP);
        }
        $least = max($around) * self::AS_CLEAR;
        $weights = array_map(static fn (int $clear): float => max(0.0, $clear - $least), $around);
        $middle = array_sum(array_map(static fn (int $step, float $weight): float => $step * $weight, array_keys($weights), $weights));
        $angle = $best * self::WIDEST / 16 + self::FINE_STEP * $middle / array_sum($weights);

        return abs($angle) < self::SLIGHT ? 0.0 : round($angle, 2);
    }

    /** @return list<array{int, int}> x and y */
    private static function feet(Raster $page, int $ink): array
    {
        $dark = self::upTo($ink);
        $edge = (int) ($page->width * self::EDGE / 2);
        $width = $page->width - 2 * $edge;
        $points = [];
        for ($y = 0; $y < $page->height - 1; $y++) {
            $row = substr($page->grey, $y * $page->width + $edge, $width);
            $below = ($y + 1) * $page->width + $edge;
            for ($x = strcspn($row, $dark); $x < $width; $x += 1 + strcspn($row, $dark, $x + 1)) {
                if (ord($page->grey[$below + $x]) > $ink) {
                    $points[] = [$x, $y];
                }
            }
        }
        $every = intdiv(count($points), self::POINTS) + 1;

        return $every === 1 ? $points : array_values(array_filter($points, static fn (int $i): bool => $i % $every === 0, ARRAY_FILTER_USE_KEY));
    }

    /** @param  list<array{int, int}>  $points */
    private static function clearness(array $points, float $degrees): int
    {
        $slope = tan(deg2rad($degrees));
        $rows = [];
        foreach ($points as [$x, $y]) {
            $row = (int) ($y - $x * $slope + 10_000);
            $rows[$row] = ($rows[$row] ?? 0) + 1;
        }
        $sum = 0;
        foreach ($rows as $count) {
            $sum += $count * $count;
        }

        return $sum;
    }

    /** All bytes up to a tone. */
    private static function upTo(int $tone): string
    {
        return implode('', array_map(chr(...), range(0, max(0, $tone))));
    }
}
