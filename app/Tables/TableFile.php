<?php

declare(strict_types=1);

namespace App\Tables;

use App\Support\Refused;
use Brenvic\Core\Capture\TextEncoding;
use Brenvic\Core\Exchange\SpreadsheetRows;
use Generator;

/** A table as a file: CSV in whatever encoding and with whatever sign between its cells, or the first sheet of an XLSX or ODS file. */
final readonly class TableFile
{
    /** So much tells encoding and sign. */
    private const HEAD = 262_144;

    private const SIGNS = [',', ';', "\t", '|'];

    private const MOST_COLUMNS = 500;

    private const LONGEST_CELL = 1_000_000;

    public function __construct(private string $path)
    {
    }

    /**
     * @return Generator<int, list<string>> rows in UTF-8, the first with the names of the columns
     *
     * @throws Refused when it is no table
     */
    public function rows(): Generator
    {
        $head = (string) file_get_contents($this->path, length: self::HEAD);
        if (trim($head) === '') {
            throw new Refused('The table is empty.');
        }
        if (str_starts_with($head, "PK\x03\x04")) {
            yield from (new SpreadsheetRows($this->path))->rows();

            return;
        }
        if (str_starts_with($head, "\xD0\xCF\x11\xE0") || str_starts_with($head, '%PDF')) {
            throw new Refused('This is no CSV file and no XLSX or ODS spreadsheet. Save the sheet as one of them, and give that.');
        }
        $encoding = TextEncoding::decoded($head, static fn (): string => '')->encoding;
        $stream = fopen($this->path, 'rb') ?: throw new Refused('The table cannot be opened.');
        try {
            if (! in_array(strtoupper($encoding), ['UTF-8', 'ASCII', 'US-ASCII'], true)) {
                stream_filter_append($stream, "convert.iconv.{$encoding}/UTF-8//IGNORE", STREAM_FILTER_READ);
            }
            yield from $this->cells($stream, self::sign((string) mb_convert_encoding($head, 'UTF-8', $encoding)));
        } finally {
            fclose($stream);
        }
    }

    /**
     * @param  resource  $stream
     * @return Generator<int, list<string>>
     */
    private function cells($stream, string $sign): Generator
    {
        $isFirst = true;
        while (($row = fgetcsv($stream, null, $sign, escape: '')) !== false) {
            if ($row === [null]) {
                continue;
            }
            $cells = array_map(static fn (?string $cell): string => strlen((string) $cell) > self::LONGEST_CELL ? '' : (string) $cell, $row);
            if ($isFirst) {
                $cells[0] = (string) preg_replace('/^\x{FEFF}/u', '', $cells[0]);
                if (count($cells) > self::MOST_COLUMNS) {
                    throw new Refused('The table has more than '.self::MOST_COLUMNS.' columns.');
                }
                $isFirst = false;
            }
            yield mb_check_encoding($cells, 'UTF-8') ? $cells : array_map(mb_scrub(...), $cells);
        }
    }

    /** The sign that parts the first line into the most cells, and those after it into as many. */
    private static function sign(string $head): string
    {
        $lines = array_slice(array_filter(preg_split('/\r\n|\r|\n/', $head) ?: [], static fn (string $l): bool => trim($l) !== ''), 0, 20);
        $best = ',';
        $most = 1.0;
        foreach (self::SIGNS as $sign) {
            $counts = array_map(static fn (string $line): int => count(str_getcsv($line, $sign, escape: '')), $lines);
            $columns = $counts[0] ?? 1;
            $alike = count(array_filter($counts, static fn (int $count): bool => $count === $columns)) / max(1, count($counts));
            if ($columns > 1 && $columns * $alike > $most) {
                [$best, $most] = [$sign, $columns * $alike];
            }
        }

        return $best;
    }
}
