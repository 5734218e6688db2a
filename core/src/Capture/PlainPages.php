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

    /**
     * @param  string  $text  UTF-8 (see TextEncoding)
     * @return list<TextPage> at least one
     */
    public static function of(string $text): array
    {
        $text = str_replace(["\r\n", "\r"], "\n", $text);
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
}
