<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Names as numbers that sort like them, so that bit slices can page through a million titles: ten signs a number, six
 * bits each, in the order space, digits, letters, everything else.
 */
final class NameCode
{
    private const SIGNS = ' 0123456789abcdefghijklmnopqrstuvwxyz';

    private const BITS = 6;

    private const LENGTH = 10;

    private const LEVELS = 3;

    /**
     * The names of the numbers under which a name is indexed, for its signs 1–10, 11–20, 21–30.
     *
     * @return list<string>
     */
    public static function levels(string $name): array
    {
        return array_map(static fn (int $level): string => "{$name}.{$level}", range(1, self::LEVELS));
    }

    /** The name folded as it is sorted: what is no letter or digit counts as a space. */
    public static function folded(string $name): string
    {
        return trim((string) preg_replace('/[^\p{L}\p{N}]+/u', ' ', Tokenizer::fold($name)));
    }

    /** @return array<string, list<int>> number's name => the number */
    public static function of(string $name, string $text): array
    {
        $folded = self::folded($text);
        $codes = [];
        foreach (self::levels($name) as $level => $key) {
            $code = 0;
            $piece = mb_substr($folded, $level * self::LENGTH, self::LENGTH);
            for ($i = 0; $i < self::LENGTH; $i++) {
                $code = $code << self::BITS | self::sign(mb_substr($piece, $i, 1));
            }
            $codes[$key] = [$code];
        }

        return $codes;
    }

    /**
     * The lowest and highest number at each level that a name has which begins with some text.
     *
     * @return array{array<string, array{int, int}>, bool} number's name => lowest, highest; and whether all names in these
     *                                                     ranges begin so, or some are only alike
     */
    public static function beginning(string $name, string $text): array
    {
        // A sign behind the text keeps what separates words at its end.
        $folded = mb_substr(self::folded("{$text}x"), 0, -1);
        $ranges = [];
        foreach (self::levels($name) as $level => $key) {
            $piece = mb_substr($folded, $level * self::LENGTH, self::LENGTH);
            if ($piece === '') {
                break;
            }
            $low = $high = 0;
            for ($i = 0; $i < self::LENGTH; $i++) {
                $sign = mb_substr($piece, $i, 1);
                $low = $low << self::BITS | self::sign($sign);
                $high = $high << self::BITS | ($sign === '' ? (1 << self::BITS) - 1 : self::sign($sign));
            }
            $ranges[$key] = [$low, $high];
        }

        return [$ranges, strlen($folded) <= self::LEVELS * self::LENGTH && preg_match('/^['.self::SIGNS.']*$/D', $folded) === 1];
    }

    private static function sign(string $sign): int
    {
        if ($sign === '') {
            return 0;
        }
        $place = strpos(self::SIGNS, $sign);

        return $place === false ? strlen(self::SIGNS) + 1 : $place + 1;
    }
}
