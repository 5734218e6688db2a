<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/**
 * The values of one column of a table, counted as the rows go by. Up to `MOST` different values are counted exactly; of a
 * column with more, those met first are, the others are drawn as a sample (Vitter, “Random sampling with a reservoir”, 1985,
 * algorithm R) and their number is estimated (Whang et al., “A linear-time probabilistic counting algorithm”, 1990).
 */
final class ColumnCounts
{
    public const MOST = 20_000;

    private const SAMPLE = 4_000;

    /** Bits of the estimate. */
    private const BITS = 1 << 22;

    /** What is longer is no value to choose or to parse; only its beginning is kept. */
    private const LONGEST = 400;

    public int $rows = 0;

    public int $filled = 0;

    /** @var array<int|string, int> value => rows */
    private array $counts = [];

    /** @var array<int, string> */
    private array $sample = [];

    private int $others = 0;

    private string $seen = '';

    public int $longest = 0;

    public function __construct(public readonly string $name)
    {
    }

    public function add(string $cell): void
    {
        $this->rows++;
        $value = trim($cell);
        if ($value === '') {
            return;
        }
        $this->filled++;
        if (isset($this->counts[$value])) {
            $this->counts[$value]++;

            return;
        }
        $length = strlen($value);
        if ($length > $this->longest) {
            $this->longest = $length;
        }
        if ($length > self::LONGEST) {
            $value = mb_strcut($value, 0, self::LONGEST);
        }
        if ($this->seen === '' && count($this->counts) < self::MOST) {
            $this->counts[$value] = 1 + ($this->counts[$value] ?? 0);

            return;
        }
        $this->addOther($value);
    }

    private function addOther(string $value): void
    {
        if ($this->seen === '') {
            $this->seen = str_repeat("\0", self::BITS >> 3);
        }
        $bit = crc32($value) & (self::BITS - 1);
        $this->seen[$bit >> 3] = $this->seen[$bit >> 3] | chr(1 << ($bit & 7));
        $this->others++;
        $place = count($this->sample) < self::SAMPLE ? count($this->sample) : mt_rand(0, $this->others - 1);
        if ($place < self::SAMPLE) {
            $this->sample[$place] = $value;
        }
    }

    public function isExact(): bool
    {
        return $this->seen === '';
    }

    /** How many different values there are; estimated when they are too many to count. */
    public function distinct(): int
    {
        if ($this->seen === '') {
            return count($this->counts);
        }
        $empty = self::BITS;
        foreach (count_chars($this->seen, 1) as $byte => $times) {
            $empty -= substr_count(decbin($byte), '1') * $times;
        }
        $estimate = $empty === 0 ? $this->others : (int) round(-self::BITS * log($empty / self::BITS));

        return count($this->counts) + min($this->others, $estimate);
    }

    /** The share of rows that have a value, 0 to 1. */
    public function fill(): float
    {
        return $this->rows === 0 ? 0.0 : $this->filled / $this->rows;
    }

    /** @param  list<string>  $nothing  what stands for no value */
    public function fillWithout(array $nothing): float
    {
        $empty = array_sum(array_intersect_key($this->counts, array_fill_keys($nothing, true)));

        return $this->rows === 0 ? 0.0 : ($this->filled - $empty) / $this->rows;
    }

    /**
     * The values with how many rows each stands for, the sample for all that were not counted.
     *
     * @return array<int|string, float> value => rows
     */
    public function weights(): array
    {
        $weights = array_map(floatval(...), $this->counts);
        if ($this->sample !== []) {
            $each = $this->others / count($this->sample);
            foreach ($this->sample as $value) {
                $weights[$value] = ($weights[$value] ?? 0.0) + $each;
            }
        }

        return $weights;
    }

    /** @return array<int|string, int> the values that are counted exactly, the most frequent first */
    public function counted(): array
    {
        $counts = $this->counts;
        // Alike ones in the order of their letters, so that the same table gives the same proposal.
        uksort(
            $counts,
            static fn (int|string $a, int|string $b): int => $counts[$b] <=> $counts[$a] ?: strnatcasecmp((string) $a, (string) $b),
        );

        return $counts;
    }

    /**
     * Those that are at home in the column: without the rare ones, where a few rows in a hundred have values that hardly another
     * row has, and all others come again and again.
     *
     * @return array<int|string, int> the most frequent first
     */
    public function usual(): array
    {
        $counts = $this->counted();
        $usual = array_filter($counts, static fn (int $rows): bool => $rows > 2);
        $rows = array_sum($usual);
        $isRule = $usual !== [] && $rows >= 0.97 * array_sum($counts) && $rows >= 20 * count($usual);

        return $isRule ? $usual : $counts;
    }
}
