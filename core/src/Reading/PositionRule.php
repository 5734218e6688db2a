<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Lift\Lift;
use Brenvic\Core\Lift\Places;

/**
 * What stands beside printed words: the date behind “Inspected on”, the number right of “Permit no.”, the line below “To:”. Right and
 * below are told by the boxes of words on the page; a text without such has lines in their place. Of what stands there the first that
 * fits the kind of the field is taken, and of a field that any words fit all of the line.
 */
final class PositionRule implements ReadingRule
{
    /** How far behind the words the text is looked at, in bytes. */
    private const REACH = 160;

    /** Words that stand on one line overlap so much of the lower one’s height. */
    private const OVERLAP = 0.5;

    /** A wider gap than so many heights of a letter parts two columns. */
    private const GAP = 4.0;

    /** What is below is not farther than so many heights of a letter. */
    private const DEPTH = 3.5;

    /** @var non-empty-list<string> */
    private array $anchor;

    /** @param  string  $anchor  the printed words */
    public function __construct(string $anchor, private readonly Direction $direction)
    {
        $words = Tokenizer::words($anchor);
        $this->anchor = $words === [] ? [''] : $words;
    }

    public function in(TextPage $page, FieldDefinition $field): array
    {
        $found = [];
        foreach ($this->anchors($page) as [$offset, $end]) {
            foreach ($this->beside($page, $offset, $end) as [$from, $length]) {
                $place = $this->first($page->text, $from, $length, $field);
                if ($place !== null) {
                    $found[] = $place;
                    break;
                }
            }
        }

        return $found;
    }

    /** @return list<array{int, int}> where the printed words begin and end, in bytes */
    private function anchors(TextPage $page): array
    {
        $words = PrintedWords::of($page);
        $anchors = [];
        foreach ($words->places($this->anchor) as $i) {
            $end = $words->all[$i + count($this->anchor) - 1];
            $anchors[] = [$words->all[$i][1], $end[1] + $end[2]];
        }

        return $anchors;
    }

    /** @return list<array{int, int}> the stretches of text in which the value may stand, the likeliest first */
    private function beside(TextPage $page, int $offset, int $end): array
    {
        if ($page->words === [] || $this->direction === Direction::Behind) {
            return self::inText($page->text, $end, $this->direction);
        }
        $anchor = $others = [];
        foreach ($page->words as $word) {
            if ($word->offset >= $offset && $word->offset < $end) {
                $anchor[] = $word;
            } else {
                $others[] = $word;
            }
        }
        if ($anchor === []) {
            return [];
        }
        $box = [
            min(array_map(static fn (WordBox $w): float => $w->left, $anchor)),
            max(array_map(static fn (WordBox $w): float => $w->right, $anchor)),
            min(array_map(static fn (WordBox $w): float => $w->top, $anchor)),
            max(array_map(static fn (WordBox $w): float => $w->bottom, $anchor)),
        ];

        return $this->direction === Direction::Right ? self::right($others, $box) : self::below($others, $box);
    }

    /** @return list<array{int, int}> */
    private static function inText(string $text, int $end, Direction $direction): array
    {
        // What parts the printed words from the value is not part of it.
        $from = $end + strspn($text, " \t:.-_", $end);
        $break = strpos($text, "\n", $from);
        $line = ($break === false ? strlen($text) : $break) - $from;
        $next = $break === false ? null : [$break + 1, (strpos($text, "\n", $break + 1) ?: strlen($text)) - $break - 1];
        $reach = [$from, min(self::REACH, strlen($text) - $from)];

        return match ($direction) {
            Direction::Behind => [[$from, min($line, self::REACH)], $reach],
            Direction::Right => [[$from, $line]],
            Direction::Below => $next === null ? [] : [$next],
        };
    }

    /**
     * @param  list<WordBox>  $words
     * @param  array{float, float, float, float}  $box  left, right, top, bottom
     * @return list<array{int, int}>
     */
    private static function right(array $words, array $box): array
    {
        [, $edge, $top, $bottom] = $box;
        $line = [];
        foreach ($words as $word) {
            if ($word->left >= $edge - 1 && self::overlap($word->top, $word->bottom, $top, $bottom) >= self::OVERLAP) {
                $line[] = $word;
            }
        }

        return self::run($line, $edge, $bottom - $top);
    }

    /**
     * @param  list<WordBox>  $words
     * @param  array{float, float, float, float}  $box
     * @return list<array{int, int}>
     */
    private static function below(array $words, array $box): array
    {
        [$left, $right, $top, $bottom] = $box;
        $height = $bottom - $top;
        $under = array_filter(
            $words,
            static fn (WordBox $w): bool => $w->top >= $bottom - 0.4 * $height &&
                $w->top <= $bottom + self::DEPTH * $height &&
                $w->right > $left &&
                $w->left < max($right, $left + 12 * $height),
        );
        if ($under === []) {
            return [];
        }
        usort($under, static fn (WordBox $a, WordBox $b): int => $a->top <=> $b->top);
        $first = $under[0];
        $line = array_filter(
            $words,
            static fn (WordBox $w): bool => $w->right > $left && self::overlap($w->top, $w->bottom, $first->top, $first->bottom) >= self::OVERLAP,
        );

        return self::run($line, $left, $height);
    }

    private static function overlap(float $top, float $bottom, float $otherTop, float $otherBottom): float
    {
        $common = min($bottom, $otherBottom) - max($top, $otherTop);
        $least = min($bottom - $top, $otherBottom - $otherTop);

        return $least <= 0.0 ? 0.0 : $common / $least;
    }

    /**
     * The words of a line from an edge on, up to a wide gap; as they mostly stand in the text, too, as one stretch of it.
     *
     * @param  array<WordBox>  $line
     * @return list<array{int, int}>
     */
    private static function run(array $line, float $edge, float $height): array
    {
        usort($line, static fn (WordBox $a, WordBox $b): int => $a->left <=> $b->left);
        $run = [];
        $isFirst = true;
        foreach ($line as $word) {
            // The first may stand far away, as in forms.
            if (! $isFirst && $word->left - $edge > self::GAP * $height) {
                break;
            }
            $run[] = $word;
            $edge = $word->right;
            $isFirst = false;
        }
        if ($run === []) {
            return [];
        }
        usort($run, static fn (WordBox $a, WordBox $b): int => $a->offset <=> $b->offset);
        $stretches = [];
        foreach ($run as $word) {
            $last = $stretches === [] ? null : $stretches[count($stretches) - 1];
            // Words of one line follow each other in the text with nothing but a blank between.
            if ($last !== null && $word->offset - ($last[0] + $last[1]) <= 2) {
                $stretches[count($stretches) - 1] = [$last[0], $word->offset + $word->length - $last[0]];
            } else {
                $stretches[] = [$word->offset, $word->length];
            }
        }

        return $stretches;
    }

    /** @return array{int, int, string}|null */
    private function first(string $text, int $from, int $length, FieldDefinition $field): ?array
    {
        $stretch = mb_strcut(substr($text, $from), 0, $length);
        $place = Places::shared($field)->in($stretch, 1)[0] ?? null;
        if ($place !== null) {
            return [$from + $place->offset, $place->length, $place->value];
        }
        $line = trim($stretch, " \t\r\n:.,;");
        if ($line === '' || str_contains($line, "\n")) {
            return null;
        }
        $at = $from + (int) strpos($stretch, $line);
        $first = substr($line, 0, strcspn($line, " \t,;"));
        // All of the line, or its first word, of a field with terms also as the code of one. Of words alone all are meant.
        $tries = [[$line, $line], [$first, $first], [$first, mb_strtolower(rtrim($first, '.:'))]];
        $isWords = in_array($field->kind->value, ['text', 'long_text', 'person'], true);
        foreach (array_slice($tries, 0, $isWords ? 1 : ($field->vocabulary === null ? 2 : 3)) as [$there, $value]) {
            try {
                return [$at, strlen($there), Lift::value($field, $value)];
            } catch (InvalidValue) {
                continue;
            }
        }

        return null;
    }
}
