<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/**
 * Which columns of a table decide which others, exactly or nearly. The error is g3: the least share of rows to leave out
 * (Kivinen and Mannila, “Approximate inference of functional dependencies from relations”, 1995); of columns that together decide
 * another only the smallest sets are told, level by level (Huhtala et al., “TANE”, 1999), here up to two.
 */
final class Dependencies
{
    /** A slip in fifty cells of either column is no reason against it. */
    private const ERROR = 0.06;

    /** What decides no better than this share of what guessing the most frequent value would get wrong is chance. */
    private const GAIN = 0.2;

    /** Columns of more different values than this share of the rows decide everything, and tell nothing. */
    private const KEY = 0.5;

    private const EXAMPLES = 12;

    /** Rows for pairs of columns. */
    private const PAIRS = 4_000;

    /** @var list<int> how many different values each column has */
    private array $distinct = [];

    /** @var list<float> the share of rows without the most frequent value */
    private array $guess = [];

    /**
     * @param  array<int, list<string>>  $rows  a sample, all of one length
     */
    public function __construct(private readonly array $rows)
    {
        $count = max(1, count($rows));
        foreach (array_keys($rows[0] ?? []) as $column) {
            $counts = array_count_values(array_column($rows, $column));
            $this->distinct[] = count($counts);
            $this->guess[] = 1 - max([0, ...array_values($counts)]) / $count;
        }
    }

    /** @return list<Dependency> the most certain first */
    public function find(): array
    {
        $columns = array_keys($this->distinct);
        $may = fn (int $column): bool => $this->distinct[$column] > 1 && $this->distinct[$column] <= self::KEY * count($this->rows);
        $deciding = array_values(array_filter($columns, $may));
        $found = [];
        $decided = [];
        foreach ($deciding as $from) {
            foreach ($columns as $to) {
                $dependency = $from === $to ? null : $this->tried([$from], $to, $this->rows);
                if ($dependency !== null) {
                    $found[] = $dependency;
                    $decided[$to][] = $from;
                }
            }
        }
        $rows = array_slice($this->rows, 0, self::PAIRS);
        foreach ($deciding as $i => $first) {
            foreach (array_slice($deciding, $i + 1) as $second) {
                if (count($rows) < $this->distinct[$first] * $this->distinct[$second]) {
                    continue;
                }
                foreach ($columns as $to) {
                    if ($to !== $first && $to !== $second && ! isset($decided[$to])) {
                        $dependency = $this->tried([$first, $second], $to, $rows);
                        if ($dependency !== null) {
                            $found[] = $dependency;
                        }
                    }
                }
            }
        }
        usort($found, static fn (Dependency $a, Dependency $b): int => count($a->from) <=> count($b->from) ?: $a->error <=> $b->error);

        return $found;
    }

    /**
     * @param  list<int>  $from
     * @param  array<int, list<string>>  $rows
     */
    private function tried(array $from, int $to, array $rows): ?Dependency
    {
        if ($this->guess[$to] < 1e-9) {
            return null;
        }
        $groups = [];
        $filled = 0;
        [$first, $second] = [$from[0], $from[1] ?? null];
        foreach ($rows as $row) {
            $key = $second === null ? $row[$first] : ($row[$first] === '' || $row[$second] === '' ? '' : "{$row[$first]}\0{$row[$second]}");
            // What is not there decides nothing.
            if ($key !== '') {
                $groups[$key][$row[$to]] = ($groups[$key][$row[$to]] ?? 0) + 1;
                $filled++;
            }
        }
        // Each value must come again, or it cannot contradict itself.
        if ($filled < 2 * count($groups) || $filled < 10) {
            return null;
        }
        $wrong = 0;
        foreach ($groups as $counts) {
            $wrong += array_sum($counts) - max($counts);
        }
        $error = $wrong / $filled;
        if ($error > self::ERROR || $error > self::GAIN * $this->guess[$to]) {
            return null;
        }

        return new Dependency($from, $to, $error, self::exceptions($groups));
    }

    /**
     * @param  array<int|string, array<int|string, int>>  $groups
     * @return list<array{from: list<string>, usual: string, found: string, rows: int}>
     */
    private static function exceptions(array $groups): array
    {
        $exceptions = [];
        foreach ($groups as $key => $counts) {
            if (count($counts) > 1) {
                arsort($counts);
                $usual = (string) array_key_first($counts);
                foreach (array_slice($counts, 1, null, true) as $value => $rows) {
                    $exceptions[] = ['from' => explode("\0", (string) $key), 'usual' => $usual, 'found' => (string) $value, 'rows' => $rows];
                }
            }
        }
        usort($exceptions, static fn (array $a, array $b): int => $b['rows'] <=> $a['rows']);

        return array_slice($exceptions, 0, self::EXAMPLES);
    }
}
