<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

/** The words around a place of a text. */
final class Context
{
    private const BEFORE = 90;

    private const BEHIND = 90;

    /**
     * @param  int  $offset  in bytes
     * @param  int  $length  likewise
     * @return list<array{string, bool}> text, and whether it is the place itself
     */
    public static function of(string $text, int $offset, int $length): array
    {
        $end = $offset + $length;
        $before = mb_strcut($text, max(0, $offset - self::BEFORE), min($offset, self::BEFORE));
        $behind = mb_strcut(substr($text, $end), 0, self::BEHIND);
        // Sentences elsewhere and words that are cut say nothing.
        $before = (string) preg_replace(
            [$offset > self::BEFORE ? '/^\S*\s/u' : '/^$/', '/^.*(?:\n\s*\n|[.!?]\s+(?=\p{Lu}))/su'],
            '',
            $before,
        );
        $behind = (string) preg_replace(['/\n\s*\n.*$/su', strlen($text) - $end > self::BEHIND ? '/\s\S*$/u' : '/^$/'], '', $behind);
        $pieces = [[self::plain($before), false], [self::plain(substr($text, $offset, $length)), true], [self::plain($behind), false]];

        return array_values(array_filter($pieces, static fn (array $piece): bool => $piece[0] !== ''));
    }

    private static function plain(string $text): string
    {
        return (string) preg_replace('/\s+/u', ' ', mb_scrub($text));
    }
}
