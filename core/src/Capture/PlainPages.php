<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/**
 * Text without pages, cut into pieces that are quick to show: at form feeds, and at line ends after some thousand
 * characters. Nothing is lost at a cut: the pieces joined are the text again, a form feed as an empty line.
 */
final class PlainPages
{
    private const BYTES = 6_000;

    /** @return list<TextPage> at least one */
    public static function of(string $text): array
    {
        $text = str_replace(["\r\n", "\r"], "\n", self::decoded($text));
        $pages = [];
        $feeds = explode("\f", $text);
        foreach ($feeds as $i => $piece) {
            $piece .= isset($feeds[$i + 1]) ? "\n\n" : '';
            while (strlen($piece) > self::BYTES) {
                $head = self::head($piece);
                $pages[] = new TextPage(0, 0, $head);
                $piece = substr($piece, strlen($head));
            }
            if (trim($piece) !== '' || $pages === []) {
                $pages[] = new TextPage(0, 0, $piece);
            }
        }

        return $pages;
    }

    /** The beginning of a long text: to the last line end, or blank, or letter that has room. */
    private static function head(string $text): string
    {
        $most = substr($text, 0, self::BYTES);
        $cut = strrpos($most, "\n");
        $cut = $cut === false || $cut < self::BYTES / 4 ? strrpos($most, ' ') : $cut;

        return $cut === false ? mb_strcut($text, 0, self::BYTES) : substr($text, 0, $cut + 1);
    }

    /**
     * The text that pieces were cut from, or pages with a line between them.
     *
     * @param  iterable<array{string, bool}>  $pages  text, and whether it is a piece of a text without pages
     */
    public static function joined(iterable $pages): string
    {
        $text = '';
        foreach ($pages as [$page, $isPiece]) {
            $text .= $isPiece ? $page : "{$page}\n";
        }

        return $text;
    }

    /** UTF-8 as it is; with a byte-order mark by that; everything else as Windows-1252, which reads Latin-1 too. */
    public static function decoded(string $bytes): string
    {
        foreach (["\xEF\xBB\xBF" => 'UTF-8', "\xFF\xFE" => 'UTF-16LE', "\xFE\xFF" => 'UTF-16BE'] as $mark => $encoding) {
            if (str_starts_with($bytes, $mark)) {
                return mb_scrub(mb_convert_encoding(substr($bytes, strlen($mark)), 'UTF-8', $encoding));
            }
        }

        return str_replace("\0", ' ', mb_check_encoding($bytes, 'UTF-8') ? $bytes : mb_convert_encoding($bytes, 'UTF-8', 'Windows-1252'));
    }
}
