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

    /** @var list<ColumnCounts> */
    public array $columns = [];

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
        foreach ($rows as $row) {
            if ($scan->columns === []) {
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
            $scan->take($row);
            if ($progress !== null && $scan->rows % self::STEP === 0) {
                $progress($scan->rows);
            }
        }

        return $scan;
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
