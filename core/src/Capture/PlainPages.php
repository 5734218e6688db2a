<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** Text without pages, cut into pieces that are quick to show: at form feeds, and at line ends after some thousand characters. */
final class PlainPages
{
    private const BYTES = 6_000;

    /** @return list<TextPage> at least one */
    public static function of(string $text): array
    {
        $text = str_replace(["\r\n", "\r"], "\n", self::decoded($text));
        $pages = [];
        foreach (explode("\f", $text) as $piece) {
            while (strlen($piece) > self::BYTES) {
                $cut = strrpos(substr($piece, 0, self::BYTES), "\n");
                $cut = $cut === false || $cut < self::BYTES / 4 ? strrpos(substr($piece, 0, self::BYTES), ' ') : $cut;
                $head = $cut === false ? mb_strcut($piece, 0, self::BYTES) : substr($piece, 0, $cut + 1);
                $pages[] = new TextPage(0, 0, $head);
                $piece = substr($piece, strlen($head));
            }
            if (trim($piece) !== '' || $pages === []) {
                $pages[] = new TextPage(0, 0, $piece);
            }
        }

        return $pages;
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
