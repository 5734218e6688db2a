<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

/** Rows of CSV (RFC 4180, UTF-8, lines that end in CRLF). */
final class CsvRow
{
    /** What a spreadsheet takes for the beginning of a formula, or of a cell that is none. */
    private const FORMULA = '/^[=+\-@\t\r]/';

    /**
     * Cells as they are, for archives and for programs.
     *
     * @param  list<string>  $cells
     */
    public static function of(array $cells): string
    {
        return implode(',', array_map(self::quoted(...), $cells))."\r\n";
    }

    /**
     * Cells to be opened in a spreadsheet: an apostrophe tells that what looks like a formula is text.
     *
     * @param  list<string>  $cells
     */
    public static function forSpreadsheet(array $cells): string
    {
        return self::of(
            array_map(
                static fn (string $text): string => preg_match(self::FORMULA, $text) === 1 && ! is_numeric($text) ? "'{$text}" : $text,
                $cells,
            ),
        );
    }

    private static function quoted(string $text): string
    {
        return strpbrk($text, "\",\r\n") === false ? $text : '"'.str_replace('"', '""', $text).'"';
    }
}
