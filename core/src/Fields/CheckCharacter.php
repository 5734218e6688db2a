<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * The check character of ISO/IEC 7064 MOD 37,36 (hybrid system, alphanumeric strings, one check character 0–9 or A–Z).
 * It finds every single mistyped character and every swap of two neighbours but 0–Z. Hyphens, dots, slashes and
 * spaces do not count.
 */
final class CheckCharacter
{
    private const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';

    /** The check character for `$text` (without one). */
    public static function for(string $text): string
    {
        return self::ALPHABET[(37 - self::remainder(self::plain($text))) % 36];
    }

    /** Whether the last character of `$text` is the right one for what stands before it. */
    public static function holds(string $text): bool
    {
        $plain = self::plain($text);

        return strlen($plain) >= 2 && substr($plain, -1) === self::for(substr($plain, 0, -1));
    }

    /**
     * What was probably meant by a text whose check character does not hold: the same text with two neighbouring
     * characters swapped back, or null when no swap makes it right.
     */
    public static function unswapped(string $text): ?string
    {
        for ($i = 0, $last = strlen($text) - 1; $i < $last; $i++) {
            [$a, $b] = [$text[$i], $text[$i + 1]];
            if ($a !== $b && ctype_alnum($a) && ctype_alnum($b) && ctype_digit($a) === ctype_digit($b)) {
                $swapped = substr_replace($text, $b.$a, $i, 2);
                if (self::holds($swapped)) {
                    return $swapped;
                }
            }
        }

        return null;
    }

    /** What probably went wrong with a text whose check character does not hold, as the end of a sentence. */
    public static function likelySlip(string $text): string
    {
        $meant = self::unswapped($text);

        return $meant === null
            ? 'one character is mistyped. Compare it with the original.'
            : "two characters are probably swapped. Did you mean {$meant}?";
    }

    private static function plain(string $text): string
    {
        return (string) preg_replace('/[^0-9A-Z]/', '', strtoupper($text));
    }

    private static function remainder(string $plain): int
    {
        $p = 36;
        foreach (str_split($plain) as $character) {
            $s = ($p + (int) strpos(self::ALPHABET, $character)) % 36;
            $p = (($s === 0 ? 36 : $s) * 2) % 37;
        }

        return $p;
    }
}
