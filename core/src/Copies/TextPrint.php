<?php

declare(strict_types=1);

namespace Brenvic\Core\Copies;

use Brenvic\Core\Index\Tokenizer;

/**
 * By what texts that are nearly alike are known: the runs of words that they have in common. The share of two texts is that of
 * Broder (On the resemblance and containment of documents, 1997): runs in both of runs in either. A text is found by a few keys that
 * texts have in common the likelier the larger that share is (MinHash in bands: Leskovec, Rajaraman, Ullman, Mining of Massive
 * Datasets, 3.4); the least numbers come of one pass over the runs (Li, Owen, Zhang, One permutation hashing, 2012), with empty bins
 * filled from the next (Shrivastava, Li, Densifying one permutation hashing, 2014).
 */
final readonly class TextPrint
{
    /** Words of a run. */
    private const RUN = 4;

    /** Words of a text that count; of a longer one its beginning. */
    public const MOST_WORDS = 200_000;

    public const BANDS = 4;

    /** Least numbers of a band. */
    private const ROWS = 6;

    /** So many of them, all of which have to be the same, lead to what has something in common. */
    private const ROWS_ALIKE = 2;

    public const KEY_BITS = 30;

    /** Bits of a key that the key of a family begins with, so that where a text's keys are kept is known by its families. */
    public const BEGINNING = 14;

    private const FAMILY_BITS = 18;

    /** Runs from which on a text is compared at all: a page with nothing but a stamp is like many. */
    private const LEAST_RUNS = 8;

    /**
     * @param  list<int>  $runs  numbers of the runs of words, each once, ascending
     * @param  int  $whole  a number for the words in their order
     */
    private function __construct(private array $runs, public int $whole)
    {
    }

    public static function of(string $text): self
    {
        $words = array_slice(Tokenizer::words($text), 0, self::MOST_WORDS);
        $runs = [];
        for ($i = 0, $last = count($words) - self::RUN; $i <= $last; $i++) {
            $runs[self::number("{$words[$i]} {$words[$i + 1]} {$words[$i + 2]} {$words[$i + 3]}")] = true;
        }
        $runs = array_keys($runs);
        sort($runs);

        return new self($runs, self::number(implode(' ', $words)));
    }

    /** Whether it says enough to be compared with others. */
    public function isComparable(): bool
    {
        return count($this->runs) >= self::LEAST_RUNS;
    }

    /**
     * @return list<int> keys of 30 bits, one for each band; none for a text that says too little. Two texts of the share s have one
     *     in common with the probability 1 − (1 − s²)⁴: 0.98 at 0.8, 0.83 at 0.6
     */
    public function keys(): array
    {
        return $this->keysOf(self::ROWS_ALIKE, self::KEY_BITS);
    }

    /**
     * Keys that nearly the same texts have in common and others hardly ever, in the order of `keys`: whatever has one of these in
     * common has the one of `keys` in its place in common, too. Each begins with the 14 bits which that one begins with.
     *
     * @return list<int> keys of 32 bits; texts of the share s have one in common with the probability 1 − (1 − s⁶)⁴: 0.995 at
     *     0.95, 0.95 at 0.9, 0.70 at 0.8, 0.06 at 0.5; that different ones are told apart by 18 bits only adds 0.000004 to it
     */
    public function families(): array
    {
        return array_map(
            static fn (int $key, int $family): int => ($key >> self::KEY_BITS - self::BEGINNING) << self::FAMILY_BITS | $family,
            $this->keys(),
            $this->keysOf(self::ROWS, self::FAMILY_BITS),
        );
    }

    /** What the key of a family begins with, and the key in its place with it. */
    public static function beginning(int $family): int
    {
        return $family >> self::FAMILY_BITS;
    }

    /** @return list<int> */
    private function keysOf(int $rows, int $bits): array
    {
        $least = $this->isComparable() ? $this->leastNumbers() : [];
        $keys = [];
        foreach (array_chunk($least, self::ROWS) as $band => $numbers) {
            $keys[] = self::number("{$rows} {$band} ".implode(' ', array_slice($numbers, 0, $rows))) & ((1 << $bits) - 1);
        }

        return $keys;
    }

    /** @return list<int> the least number of each bin */
    private function leastNumbers(): array
    {
        $bins = self::BANDS * self::ROWS;
        $least = array_fill(0, $bins, PHP_INT_MAX);
        foreach ($this->runs as $run) {
            $run &= PHP_INT_MAX;
            $bin = $run % $bins;
            $least[$bin] = min($least[$bin], intdiv($run, $bins));
        }
        $filled = [];
        foreach ($least as $bin => $number) {
            for ($next = 1; $number === PHP_INT_MAX && $next < $bins; $next++) {
                $number = $least[($bin + $next) % $bins];
                // Told apart from what the bin has that it was borrowed from.
                $number = $number === PHP_INT_MAX ? $number : $number ^ $next;
            }
            $filled[] = $number;
        }

        return $filled;
    }

    /** How much of two texts together is in both, 0 to 1. */
    public function share(self $other): float
    {
        $common = count(array_intersect_key(array_flip($this->runs), array_flip($other->runs)));
        $either = count($this->runs) + count($other->runs) - $common;

        return $either === 0 ? 0.0 : $common / $either;
    }

    /** A number of 64 bits, with its sign. */
    private static function number(string $text): int
    {
        /** @var array{1: int} $number */
        $number = unpack('q', hash('xxh3', $text, true));

        return $number[1];
    }
}
