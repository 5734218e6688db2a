<?php

declare(strict_types=1);

namespace Brenvic\Core\Redaction;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Pages\Box;

/**
 * A page as it may be seen by others: the text without what was removed, and the rectangles to be burnt into its picture.
 * A word goes as a whole, however little of it an area touches; where words that go have no known place on a page that is
 * a picture, all of the page is burnt.
 */
final readonly class RedactedPage
{
    /** What stands in the text instead: always as long, so that it tells nothing of what was there. */
    public const BAR = '████';

    /** How much larger than a word its rectangle is, as a share of its height, so that no edge of a letter is left. */
    private const MARGIN = 0.08;

    /** How much of a word may lie under an area by inexact drawing, as a share of its height. */
    private const SLIP = 0.05;

    /**
     * @param  TextPage  $page  with the text and the words that are left
     * @param  list<array{Box, string}>  $burnt  rectangles, and the reason for each
     */
    private function __construct(public TextPage $page, public array $burnt)
    {
    }

    /** @param  list<Mark>  $marks */
    public static function of(TextPage $page, array $marks): self
    {
        $ranges = [];
        $burnt = [];
        foreach ($marks as $mark) {
            foreach ($mark->areas as $area) {
                $burnt[] = [$area, $mark->reason];
            }
            $touched = array_values(array_filter($page->words, static fn (WordBox $word): bool => self::isUnder($word, $mark)));
            foreach ($touched as $word) {
                $ranges[] = [$word->offset, $word->offset + $word->length];
            }
            foreach (self::joined($touched) as $box) {
                $burnt[] = [$box->grown(self::MARGIN), $mark->reason];
            }
            if ($mark->hit !== null) {
                $ranges[] = [$mark->hit->offset, $mark->hit->offset + $mark->hit->length];
                if ($touched === [] && $page->width > 0) {
                    $burnt[] = [new Box(0, 0, $page->width, $page->height), $mark->reason];
                    $ranges[] = [0, strlen($page->text)];
                }
            }
        }

        return new self(self::without($page, self::merged($ranges)), $burnt);
    }

    /**
     * The boxes of words, those beside one another as one: gaps between them would tell how many there were.
     *
     * @param  list<WordBox>  $words  in the order of the text
     * @return list<Box>
     */
    private static function joined(array $words): array
    {
        $boxes = [];
        foreach ($words as $word) {
            $box = Box::ofWord($word);
            $last = end($boxes);
            $height = $box->bottom - $box->top;
            if (
                $last !== false &&
                abs($last->top - $box->top) < $height / 2 &&
                $box->left >= $last->left &&
                $box->left - $last->right < $height
            ) {
                $boxes[array_key_last($boxes)] = new Box(
                    $last->left,
                    min($last->top, $box->top),
                    max($last->right, $box->right),
                    max($last->bottom, $box->bottom),
                );
            } else {
                $boxes[] = $box;
            }
        }

        return $boxes;
    }

    private static function isUnder(WordBox $word, Mark $mark): bool
    {
        if (
            $mark->hit !== null &&
            $word->offset < $mark->hit->offset + $mark->hit->length &&
            $mark->hit->offset < $word->offset + $word->length
        ) {
            return true;
        }
        $inner = Box::ofWord($word)->grown(-self::SLIP);
        foreach ($mark->areas as $area) {
            if ($area->touches($inner)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<array{int, int}>  $ranges  of bytes, from and to
     * @return list<array{int, int}> in order, none touching another
     */
    private static function merged(array $ranges): array
    {
        sort($ranges);
        $merged = [];
        foreach ($ranges as [$from, $to]) {
            $last = count($merged) - 1;
            if ($last >= 0 && $from <= $merged[$last][1]) {
                $merged[$last][1] = max($merged[$last][1], $to);
            } else {
                $merged[] = [$from, $to];
            }
        }

        return $merged;
    }

    /** @param  list<array{int, int}>  $ranges */
    private static function without(TextPage $page, array $ranges): TextPage
    {
        $text = '';
        $at = 0;
        $words = [];
        $next = 0;
        foreach ([...$ranges, [strlen($page->text), strlen($page->text)]] as $i => [$from, $to]) {
            $shift = strlen($text) - $at;
            while (isset($page->words[$next]) && $page->words[$next]->offset < $from) {
                $word = $page->words[$next++];
                $words[] = new WordBox($word->offset + $shift, $word->length, $word->left, $word->top, $word->right, $word->bottom);
            }
            while (isset($page->words[$next]) && $page->words[$next]->offset < $to) {
                $next++;
            }
            $text .= substr($page->text, $at, $from - $at).($i < count($ranges) ? self::BAR : '');
            $at = $to;
        }

        return new TextPage($page->width, $page->height, $text, $words);
    }
}
