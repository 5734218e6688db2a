<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Index\Tokenizer;

/**
 * By what papers of one form are known: the words with which the pieces of their first page begin, and how far from the left edge.
 * Letterheads, headings and the words printed beside values are the same on each of them, and what is written between is not; lines
 * that only go on with a sentence are left out. The first are kept, where letterheads and headings are, and of the others those with
 * the smallest hashes (a bottom-k sketch: E. Cohen, H. Kaplan, “Summarizing data using bottom-k sketches”, PODC 2007), so that what two
 * papers have in common is kept of both.
 */
final class LayoutMarks
{
    /** Marks that are kept of a paper, and those of them that are the first. */
    public const MOST = 28;

    private const FIRST = 8;

    /** Pieces of a page that are looked at. */
    private const PIECES = 90;

    /** How many steps there are from the left to the right edge of a page. */
    private const STEPS = 24;

    /** A wider gap than so many heights of a letter parts two pieces of a line. */
    private const GAP = 1.5;

    /** A line that comes this close to the right end of the text goes on in the next, as a part of its width. */
    private const FULL = 0.85;

    /**
     * @param  string  $kind  of the file
     * @return list<int> of 32 bits, in order
     */
    public static function of(TextPage $page, string $kind): array
    {
        $marks = [self::mark($kind)];
        foreach (array_slice($page->words === [] ? self::lines($page->text) : self::pieces($page), 0, self::PIECES) as [$step, $text]) {
            $words = array_slice(Tokenizer::words($text), 0, 2);
            if ($words !== []) {
                // Numbers are what is written, not what is printed; that one is there may well be printed.
                $plain = array_map(static fn (string $word): string => preg_match('/\d/', $word) === 1 ? '#' : $word, $words);
                $marks[] = self::mark($step.' '.implode(' ', $plain));
            }
        }
        $marks = array_values(array_unique($marks));
        $others = array_slice($marks, self::FIRST);
        sort($others);
        $kept = [...array_slice($marks, 0, self::FIRST), ...array_slice($others, 0, self::MOST - self::FIRST)];
        sort($kept);

        return $kept;
    }

    private static function mark(string $text): int
    {
        return (int) hexdec(hash('xxh32', $text));
    }

    /** @return list<array{int, string}> */
    private static function lines(string $text): array
    {
        $lines = [];
        foreach (explode("\n", mb_strcut($text, 0, 20_000)) as $line) {
            if (trim($line) !== '') {
                $lines[] = [0, mb_strcut($line, 0, 200)];
            }
        }

        return $lines;
    }

    /** @return list<array{int, string}> step from the left edge, and how it begins */
    private static function pieces(TextPage $page): array
    {
        $edge = array_reduce($page->words, static fn (float $most, WordBox $word): float => max($most, $word->right), 0.0);
        $steps = $texts = [];
        $last = null;
        $isWhole = true;
        foreach ($page->words as $word) {
            $text = substr($page->text, $word->offset, $word->length);
            $isBroken = $last === null || str_contains(substr($page->text, $last->offset, $word->offset - $last->offset), "\n");
            $isApart = ! $isBroken && $word->left - $last->right > self::GAP * ($word->bottom - $word->top);
            if ($isBroken || $isApart) {
                // What stands below a full line goes on with it.
                $isWhole = $isApart || $last === null || $last->right < self::FULL * $edge || $word->top - $last->bottom > $word->bottom - $word->top;
                if ($isWhole) {
                    $steps[] = (int) round($word->left / max(1.0, $page->width) * self::STEPS);
                    $texts[] = $text;
                }
            } elseif ($isWhole) {
                $texts[] = array_pop($texts)." {$text}";
            }
            $last = $word;
        }

        return array_map(static fn (int $step, string $text): array => [$step, $text], $steps, $texts);
    }
}
