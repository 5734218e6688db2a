<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/**
 * Words that a hyphen carries over to the next line of a page. In the text of the page they stay as they are printed; the
 * index has them as one word, and beside the text the parts, since “well-” at a line's end may be a hyphen that is meant.
 */
final class LineBreaks
{
    /** A letter, a hyphen, the end of the line, and a small letter with which the next one begins. */
    private const BROKEN = '/(?<=\p{L})[-\x{AD}\x{2010}]\n(?=\p{Ll})/u';

    private const WORDS = '/([\p{L}\p{M}]+)[-\x{AD}\x{2010}]\n(\p{Ll}[\p{L}\p{M}]*)/u';

    /** @return array<int, int> where such a hyphen stands => how many bytes lie between the parts of the word */
    public static function places(string $text): array
    {
        preg_match_all(self::BROKEN, $text, $m, PREG_OFFSET_CAPTURE);
        $places = [];
        foreach ($m[0] as [$between, $offset]) {
            $places[$offset] = strlen($between);
        }

        return $places;
    }

    /** @return array{string, string} the text with whole words, and the parts of each that was joined, line by line */
    public static function joined(string $text): array
    {
        if (! str_contains($text, "-\n") && preg_match('/[\x{AD}\x{2010}]\n/u', $text) !== 1) {
            return [$text, ''];
        }
        preg_match_all(self::WORDS, $text, $m, PREG_SET_ORDER);
        $parts = implode("\n\n", array_unique(array_map(static fn (array $pair): string => "{$pair[1]}-{$pair[2]}", $m)));

        return [preg_replace(self::BROKEN, '', $text) ?? $text, $parts];
    }
}
