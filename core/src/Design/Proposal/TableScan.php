<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Closure;

/** What is kept of a table after one walk through its rows: counted columns, and a sample of whole rows. */
final class TableScan
{
    private const SAMPLE = 20_000;

    /** Rows between two reports of how far it is. */
    private const STEP = 5_000;

    /** What a row of totals begins with, in the languages of registers. */
    private const TOTALS = '/^(?:grand\s+|sub)?(?:total|totals|sum|summe|gesamt|gesamtsumme|totaal|totale|totaux|suma|summa)\b/iu';

    /** @var list<ColumnCounts> */
    public array $columns = [];

    /** @var list<string> the first line, as it stands */
    public array $names = [];

    /** @var array<int, list<string>> a sample of rows, each as long as there are columns */
    public array $sample = [];

    public int $rows = 0;

    /** @var array<string, int> what was wrong with the table => in how many rows or columns */
    public array $faults = [];

    /**
     * @param  iterable<list<string>>  $rows  the first names the columns
     * @param  (Closure(int): void)|null  $progress  told the number of rows so far; what it throws ends the walk
     */
    public static function of(iterable $rows, ?Closure $progress = null): self
    {
        $scan = new self();
        $width = 0;
        $last = null;
        foreach ($rows as $row) {
            if ($scan->columns === []) {
                $scan->names = array_map(trim(...), $row);
                $scan->name($row);
                $width = count($scan->columns);

                continue;
            }
            $length = count($row);
            if ($length !== $width) {
                if ($length < $width) {
                    $scan->fault('rows with fewer cells than there are columns');
                } elseif (trim(implode('', array_slice($row, $width))) !== '') {
                    $scan->fault('rows with more cells than there are columns');
                }
                $row = array_pad(array_slice($row, 0, $width), $width, '');
            }
            // What is the last row is only known behind it.
            if ($last !== null) {
                $scan->take($last);
                if ($progress !== null && $scan->rows % self::STEP === 0) {
                    $progress($scan->rows);
                }
            }
            $last = $row;
        }
        if ($last !== null && self::isTotals($last)) {
            $scan->fault('row of totals at the foot');
        } elseif ($last !== null) {
            $scan->take($last);
        }

        return $scan;
    }

    /** @param  list<string>  $row */
    private static function isTotals(array $row): bool
    {
        $filled = array_values(array_filter(array_map(trim(...), $row), static fn (string $cell): bool => $cell !== ''));
        $numbers = array_filter($filled, static fn (string $cell): bool => WrittenNumber::parts($cell) !== null);

        return count($filled) > 1 && preg_match(self::TOTALS, $filled[0]) === 1 && count($numbers) === count($filled) - 1;
    }

    private function fault(string $what): void
    {
        $this->faults[$what] = ($this->faults[$what] ?? 0) + 1;
    }

    /** @param  list<string>  $names */
    private function name(array $names): void
    {
        $taken = [];
        foreach ($names as $i => $name) {
            $name = trim((string) preg_replace('/\s+/u', ' ', $name));
            if ($name === '') {
                $name = 'Column '.($i + 1);
                $this->fault('columns without a name');
            }
            $plain = $name;
            for ($number = 2; isset($taken[mb_strtolower($name)]); $number++) {
                $name = "{$plain} {$number}";
            }
            if ($name !== $plain) {
                $this->fault('columns of a name that another has');
            }
            $taken[mb_strtolower($name)] = true;
            $this->columns[] = new ColumnCounts($name);
        }
    }

    /** @param  list<string>  $row */
    private function take(array $row): void
    {
        $isEmpty = true;
        foreach ($row as $cell) {
            if ($cell !== '') {
                $isEmpty = false;
                break;
            }
        }
        if ($isEmpty) {
            return;
        }
        // Printed on every page, they stand among the rows.
        if ($row[0] === $this->names[0] && array_map(trim(...), $row) === $this->names) {
            $this->fault('rows that repeat the names of the columns');

            return;
        }
        foreach ($row as $i => $cell) {
            $this->columns[$i]->add($cell);
        }
        $this->rows++;
        $place = $this->rows <= self::SAMPLE ? $this->rows - 1 : mt_rand(0, $this->rows - 1);
        if ($place < self::SAMPLE) {
            $this->sample[$place] = array_map(trim(...), $row);
        }
    }
}
