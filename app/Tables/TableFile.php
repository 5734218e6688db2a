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
        $encoding = strtoupper(TextEncoding::decoded($head, static fn (): string => '')->encoding);
        $isWide = self::isWide($encoding);
        $stream = $isWide ? $this->narrowed($encoding) : fopen($this->path, 'rb');
        if ($stream === false) {
            throw new Refused('The table cannot be opened.');
        }
        try {
            yield from $this->cells($stream, self::sign(self::converted($head, $encoding)), $isWide ? 'UTF-8' : $encoding);
        } finally {
            fclose($stream);
        }
    }

    private static function isWide(string $encoding): bool
    {
        return preg_match('/^(?:UTF|UCS)-?(?:16|32|2|4)/', $encoding) === 1;
    }

    /** Text in UTF-8, whatever is wrong with it. */
    private static function converted(string $text, string $encoding): string
    {
        if ($encoding === 'UTF-8' || $encoding === 'US-ASCII' || $encoding === 'ASCII') {
            return mb_check_encoding($text, 'UTF-8') ? $text : mb_scrub($text, 'UTF-8');
        }
        if (self::isWide($encoding)) {
            return (string) mb_convert_encoding($text, 'UTF-8', $encoding);
        }
        $converted = @iconv($encoding, 'UTF-8//IGNORE', $text);

        return mb_scrub($converted === false ? mb_convert_encoding($text, 'UTF-8', 'Windows-1252') : $converted, 'UTF-8');
    }

    /**
     * A file of wide letters as UTF-8: its line ends are no single bytes.
     *
     * @return resource
     */
    private function narrowed(string $encoding)
    {
        $from = fopen($this->path, 'rb') ?: throw new Refused('The table cannot be opened.');
        $to = fopen('php://temp/maxmemory:8388608', 'w+b') ?: throw new Refused('The table cannot be converted.');
        $rest = '';
        while (! feof($from)) {
            $bytes = $rest.fread($from, self::HEAD);
            $whole = strlen($bytes) - strlen($bytes) % 4;
            // Half of a pair waits for the other.
            $last = substr($bytes, $whole - 2, 2);
            $isHalf = $whole > 2 && ! str_contains($encoding, '32') && preg_match('/^(?:[\xD8-\xDB].|.[\xD8-\xDB])$/s', $last) === 1;
            $whole -= $isHalf ? 2 : 0;
            fwrite($to, (string) mb_convert_encoding(substr($bytes, 0, $whole), 'UTF-8', $encoding));
            $rest = substr($bytes, $whole);
        }
        // Half a letter at the end is none.
        fwrite($to, (string) mb_convert_encoding(substr($rest, 0, strlen($rest) - strlen($rest) % 2), 'UTF-8', $encoding));
        fclose($from);
        rewind($to);

        return $to;
    }

    /**
     * @param  resource  $stream
     * @return Generator<int, list<string>>
     */
    private function cells($stream, string $sign, string $encoding): Generator
    {
        $isFirst = true;
        while (($row = fgetcsv($stream, null, $sign, escape: '')) !== false) {
            if ($row === [null]) {
                continue;
            }
            $cells = [];
            foreach ($row as $cell) {
                $cell = (string) $cell;
                $cells[] = strlen($cell) > self::LONGEST_CELL ? '' : self::converted($cell, $encoding);
            }
            if ($isFirst) {
                $cells[0] = (string) preg_replace('/^\x{FEFF}/u', '', $cells[0]);
                if (count($cells) > self::MOST_COLUMNS) {
                    throw new Refused('The table has more than '.self::MOST_COLUMNS.' columns.');
                }
                $isFirst = false;
            }
            yield $cells;
        }
    }

    /** The sign that parts the first line into the most cells, and those after it into as many. */
    private static function sign(string $head): string
    {
        $lines = preg_split('/\r\n|\r|\n/', $head) ?: [];
        if (count($lines) > 1) {
            // The last one may go on behind what was looked at.
            array_pop($lines);
        }
        $lines = array_slice(array_filter($lines, static fn (string $line): bool => trim($line) !== ''), 0, 20);
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
