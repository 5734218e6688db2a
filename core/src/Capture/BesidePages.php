<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

use Normalizer;

/** What a text has that its drawn pages do not show: comments, notes of the speaker, hidden sheets and slides. */
final class BesidePages
{
    /** Words with fewer letters than this are not missed: a sheet shows its numbers and dates as its author formatted them. */
    private const LETTERS = 2;

    /**
     * @param  string  $text  all of it, a paragraph or row on a line
     * @param  list<TextPage>  $pages
     * @return string the lines a word of which is on no page
     */
    public static function of(string $text, array $pages): string
    {
        // Words are cut where a line ends, and run together where columns are narrow.
        $shown = self::bare(implode(' ', array_map(static fn (TextPage $page): string => $page->text, $pages)));
        $left = [];
        foreach (explode("\n", $text) as $line) {
            foreach (preg_split('/[^\p{L}\p{M}]+/u', $line, -1, PREG_SPLIT_NO_EMPTY) ?: [] as $word) {
                if (mb_strlen($word) >= self::LETTERS && ! str_contains($shown, self::bare($word))) {
                    $left[] = trim($line);

                    break;
                }
            }
        }

        return implode("\n", $left);
    }

    private static function bare(string $text): string
    {
        // Drawn letters that stand for several (ﬁ) are those again.
        $plain = Normalizer::normalize($text, Normalizer::FORM_KC);

        return mb_strtolower((string) preg_replace('/[^\p{L}\p{M}]+/u', '', is_string($plain) ? $plain : $text));
    }
}
