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

    private const FEW = 400;

    /** @var list<list<int>> by column: each row’s value as a number, 0 for none */
    private array $ids = [];

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
            $numbers = ['' => 0];
            $ids = $counts = [];
            foreach ($rows as $row) {
                $ids[] = $id = $numbers[$row[$column]] ??= count($numbers);
                $counts[$id] = ($counts[$id] ?? 0) + 1;
            }
            $this->ids[] = $ids;
            $this->distinct[] = count($numbers);
            $this->guess[] = 1 - max([0, ...$counts]) / $count;
        }
    }

    /** @return list<Dependency> the most certain first */
    public function find(): array
    {
        $columns = array_keys($this->distinct);
        $may = fn (int $column): bool => $this->distinct[$column] > 2 && $this->distinct[$column] <= self::KEY * count($this->rows);
        $deciding = array_values(array_filter($columns, $may));
        $found = [];
        $decided = [];
        foreach ($deciding as $from) {
            foreach ($columns as $to) {
                $dependency = $from === $to ? null : $this->tried([$from], $to, count($this->rows));
                if ($dependency !== null) {
                    $found[] = $dependency;
                    $decided[$to][] = $from;
                }
            }
        }
        $rows = min(self::PAIRS, count($this->rows));
        foreach ($deciding as $i => $first) {
            foreach (array_slice($deciding, $i + 1) as $second) {
                if ($rows < $this->distinct[$first] * $this->distinct[$second]) {
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
     * @param  int  $rows  how many are looked at
     */
    private function tried(array $from, int $to, int $rows): ?Dependency
    {
        $most = min(self::ERROR, self::GAIN * $this->guess[$to]);
        // Among few rows less contradicts; what contradicts itself there already needs no more.
        if ($most < 1e-9 || ($this->error($from, $to, min($rows, self::FEW))[0] ?? 0.0) > 2 * $most) {
            return null;
        }
        $found = $this->error($from, $to, $rows);
        if ($found === null) {
            return null;
        }
        [$error, $guess] = $found;
        // What all rows say where the deciding columns are filled is decided by nothing.
        if ($guess < 1e-9 || $error > min($most, self::GAIN * $guess)) {
            return null;
        }

        return new Dependency($from, $to, $error, $error > 0 ? $this->exceptions($from, $to, $rows) : []);
    }

    /**
     * @param  list<int>  $from
     * @return array{float, float}|null the error, and what guessing gets wrong in the same rows; null when too few come again to say
     */
    private function error(array $from, int $to, int $rows): ?array
    {
        $width = $this->distinct[$to];
        $ids = $this->ids[$to];
        $first = $this->ids[$from[0]];
        $second = isset($from[1]) ? $this->ids[$from[1]] : null;
        $times = isset($from[1]) ? $this->distinct[$from[1]] : 1;
        $counts = [];
        $filled = 0;
        for ($i = 0; $i < $rows; $i++) {
            // What is not there decides nothing.
            if ($first[$i] === 0 || ($second !== null && $second[$i] === 0)) {
                continue;
            }
            $key = ($second === null ? $first[$i] : $first[$i] * $times + $second[$i]) * $width + $ids[$i];
            $counts[$key] = ($counts[$key] ?? 0) + 1;
            $filled++;
        }
        $highest = $values = [];
        foreach ($counts as $key => $count) {
            $group = intdiv($key, $width);
            $values[$key % $width] = ($values[$key % $width] ?? 0) + $count;
            if ($count > ($highest[$group] ?? 0)) {
                $highest[$group] = $count;
            }
        }

        // Each value must come again, or it cannot contradict itself.
        if ($values === [] || $filled < 2 * count($highest) || $filled < 10) {
            return null;
        }

        return [($filled - array_sum($highest)) / $filled, ($filled - max($values)) / $filled];
    }

    /**
     * @param  list<int>  $from
     * @return list<array{from: list<string>, usual: string, found: string, rows: int}>
     */
    private function exceptions(array $from, int $to, int $rows): array
    {
        $groups = [];
        for ($i = 0; $i < $rows; $i++) {
            $row = $this->rows[$i];
            foreach ($from as $column) {
                if ($row[$column] === '') {
                    continue 2;
                }
            }
            $key = implode("\0", array_map(static fn (int $column): string => $row[$column], $from));
            $groups[$key][$row[$to]] = ($groups[$key][$row[$to]] ?? 0) + 1;
        }
        $exceptions = [];
        foreach ($groups as $key => $counts) {
            if (count($counts) > 1) {
                arsort($counts);
                $usual = (string) array_key_first($counts);
                foreach (array_slice($counts, 1, null, true) as $value => $times) {
                    $exceptions[] = [
                        'from' => explode("\0", (string) $key),
                        'usual' => $usual,
                        'found' => (string) $value,
                        'rows' => $times,
                    ];
                }
            }
        }
        usort($exceptions, static fn (array $a, array $b): int => $b['rows'] <=> $a['rows']);

        return array_slice($exceptions, 0, self::EXAMPLES);
    }
}
