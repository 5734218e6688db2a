<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\SheetCell;

/** One table of a report. */
final readonly class ReportTable
{
    /**
     * @param  string  $says  what has to be known to read it
     * @param  list<Column>  $columns
     * @param  list<ReportRow>  $rows  with a cell for each column
     * @param  Plot|null  $plot  null where there is nothing to compare
     */
    public function __construct(
        public string $name,
        public string $says,
        public array $columns,
        public array $rows,
        public ?Plot $plot = null,
    ) {
    }

    public function csv(): string
    {
        $lines = [CsvRow::of(array_map(static fn (Column $column): string => $column->name, $this->columns))];
        foreach ($this->rows as $row) {
            $lines[] = CsvRow::forSpreadsheet(array_map(strval(...), $row->cells));
        }

        return implode('', $lines);
    }

    /** The rows of a sheet of a spreadsheet, in which numbers are numbers and days are days. */
    public function sheetRows(): string
    {
        $rows = OdsSheet::row(array_map(static fn (Column $column): string => $column->name, $this->columns));
        foreach ($this->rows as $row) {
            $cells = [];
            foreach ($row->cells as $i => $cell) {
                $cells[] = match (true) {
                    $cell === null => '',
                    ! is_string($cell) => SheetCell::number($cell),
                    $this->columns[$i]->measure === Measure::Day && preg_match('/^\d{4}-\d{2}-\d{2}$/D', $cell) === 1 => SheetCell::day(
                        $cell,
                    ),
                    default => $cell,
                };
            }
            $rows .= OdsSheet::row($cells);
        }

        return $rows;
    }
}
