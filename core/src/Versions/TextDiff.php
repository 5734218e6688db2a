<?php

declare(strict_types=1);

namespace Brenvic\Core\Versions;

/**
 * What differs between two texts, word by word: the lines that differ are found first, then the words within them. After
 * E. W. Myers, “An O(ND) difference algorithm and its variations”, Algorithmica 1 (1986), the greedy form. A stretch with
 * more than LIMIT differences is told as taken out and put in whole: nobody reads it word by word, and the cost grows with
 * its square.
 */
final readonly class TextDiff
{
    private const LIMIT = 2_000;

    /** @return list<DiffPiece> which give the old text without what was put in, and the new one without what was taken out */
    public static function of(string $old, string $new): array
    {
        $pieces = [];
        foreach (self::runs(self::lines($old), self::lines($new)) as [$before, $after]) {
            if ($before === $after) {
                self::add($pieces, DiffKind::Same, implode('', $before));

                continue;
            }
            foreach (self::runs(self::words(implode('', $before)), self::words(implode('', $after))) as [$gone, $come]) {
                if ($gone === $come) {
                    self::add($pieces, DiffKind::Same, implode('', $gone));
                } else {
                    self::add($pieces, DiffKind::TakenOut, implode('', $gone));
                    self::add($pieces, DiffKind::PutIn, implode('', $come));
                }
            }
        }

        return $pieces;
    }

    /** @param  list<DiffPiece>  $pieces */
    private static function add(array &$pieces, DiffKind $kind, string $text): void
    {
        if ($text === '') {
            return;
        }
        $last = end($pieces);
        if ($last !== false && $last->kind === $kind) {
            $pieces[array_key_last($pieces)] = new DiffPiece($kind, $last->text.$text);
        } else {
            $pieces[] = new DiffPiece($kind, $text);
        }
    }

    /** @return list<string> each with its line end */
    private static function lines(string $text): array
    {
        return preg_split('/(?<=\n)/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [];
    }

    /** @return list<string> words and what stands between them */
    private static function words(string $text): array
    {
        return preg_split('/(\s+)/', $text, -1, PREG_SPLIT_NO_EMPTY | PREG_SPLIT_DELIM_CAPTURE) ?: [];
    }

    /**
     * Stretches that are alike, and those that stand in one another's place.
     *
     * @param  list<string>  $a
     * @param  list<string>  $b
     * @return list<array{list<string>, list<string>}> equal where nothing differs
     */
    private static function runs(array $a, array $b): array
    {
        $start = 0;
        $most = min(count($a), count($b));
        while ($start < $most && $a[$start] === $b[$start]) {
            $start++;
        }
        $end = 0;
        while ($end < $most - $start && $a[count($a) - 1 - $end] === $b[count($b) - 1 - $end]) {
            $end++;
        }
        $runs = $start > 0 ? [[array_slice($a, 0, $start), array_slice($b, 0, $start)]] : [];
        $midA = array_slice($a, $start, count($a) - $start - $end);
        $midB = array_slice($b, $start, count($b) - $start - $end);
        [$x, $y] = [0, 0];
        foreach ([...self::snakes($midA, $midB), [count($midA), count($midB), 0]] as [$atA, $atB, $length]) {
            if ($atA > $x || $atB > $y) {
                $runs[] = [array_slice($midA, $x, $atA - $x), array_slice($midB, $y, $atB - $y)];
            }
            if ($length > 0) {
                $runs[] = [array_slice($midA, $atA, $length), array_slice($midB, $atB, $length)];
            }
            [$x, $y] = [$atA + $length, $atB + $length];
        }
        if ($end > 0) {
            $runs[] = [array_slice($a, -$end), array_slice($b, -$end)];
        }

        return $runs;
    }

    /**
     * The stretches that both have, in order.
     *
     * @param  list<string>  $a
     * @param  list<string>  $b
     * @return list<array{int, int, int}> where in the one, where in the other, and how long
     */
    private static function snakes(array $a, array $b): array
    {
        [$n, $m] = [count($a), count($b)];
        if ($n === 0 || $m === 0) {
            return [];
        }
        $furthest = [1 => 0];
        $trace = [];
        for ($d = 0; $d <= min($n + $m, self::LIMIT); $d++) {
            $trace[] = $furthest;
            for ($k = -$d; $k <= $d; $k += 2) {
                $x = $k === -$d || ($k !== $d && $furthest[$k - 1] < $furthest[$k + 1]) ? $furthest[$k + 1] : $furthest[$k - 1] + 1;
                $y = $x - $k;
                while ($x < $n && $y < $m && $a[$x] === $b[$y]) {
                    $x++;
                    $y++;
                }
                $furthest[$k] = $x;
                if ($x >= $n && $y >= $m) {
                    return self::backwards($trace, $n, $m);
                }
            }
            // Only the diagonals just reached are needed on the way back.
            $trace[$d] = array_filter($trace[$d], static fn (int $k): bool => abs($k) <= $d + 1, ARRAY_FILTER_USE_KEY);
        }

        return [];
    }

    /**
     * @param  list<array<int, int>>  $trace  the furthest reach on each diagonal before each step
     * @return list<array{int, int, int}>
     */
    private static function backwards(array $trace, int $x, int $y): array
    {
        $snakes = [];
        for ($d = count($trace) - 1; $d >= 0; $d--) {
            $furthest = $trace[$d];
            $k = $x - $y;
            $before = $k === -$d || ($k !== $d && ($furthest[$k - 1] ?? -1) < ($furthest[$k + 1] ?? -1)) ? $k + 1 : $k - 1;
            $fromX = $furthest[$before] ?? 0;
            $fromY = $fromX - $before;
            $length = min($x - max(0, $fromX), $y - max(0, $fromY));
            if ($d > 0) {
                $stepX = $before === $k + 1 ? $fromX : $fromX + 1;
                $length = $x - $stepX;
            }
            if ($length > 0) {
                array_unshift($snakes, [$x - $length, $y - $length, $length]);
            }
            [$x, $y] = [$fromX, $fromY];
        }

        return $snakes;
    }
}
