<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

/** Rows of CSV (RFC 4180, UTF-8, lines that end in CRLF). */
final class CsvRow
{
    /** @param  list<string>  $cells */
    public static function of(array $cells): string
    {
        return implode(',', array_map(self::cell(...), $cells))."\r\n";
    }

    private static function cell(string $text): string
    {
        // What a spreadsheet would take for a formula is told to be text.
        if (preg_match('/^[=+\-@\t\r]/', $text) === 1 && ! is_numeric($text)) {
            $text = "'{$text}";
        }

        return strpbrk($text, "\",\r\n") === false ? $text : '"'.str_replace('"', '""', $text).'"';
    }
}
