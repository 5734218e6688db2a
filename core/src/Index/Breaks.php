<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Where the sentences and paragraphs of a part end, counted in words. One byte a sentence says how many words it has
 * (FE and four bytes when there are 254 or more), FF stands between paragraphs.
 */
final class Breaks
{
    private const LONG = "\xFE";

    private const PARAGRAPH = "\xFF";

    private const MOST = 253;

    /** @param  list<list<int>>  $paragraphs  words of each sentence of each paragraph */
    public static function encode(array $paragraphs): string
    {
        return implode(self::PARAGRAPH, array_map(
            static fn (array $sentences): string => implode('', array_map(
                static fn (int $words): string => $words <= self::MOST ? chr($words) : self::LONG.pack('N', $words),
                $sentences,
            )),
            $paragraphs,
        ));
    }

    /**
     * The position of the first word of each sentence and of each paragraph, ascending, 0 first.
     *
     * @return array{list<int>, list<int>} sentences, paragraphs
     */
    public static function starts(string $breaks): array
    {
        [$sentences, $paragraphs, $words] = [[], [0], 0];
        for ($at = 0, $end = strlen($breaks); $at < $end; $at++) {
            if ($breaks[$at] === self::PARAGRAPH) {
                $paragraphs[] = $words;

                continue;
            }
            $sentences[] = $words;
            if ($breaks[$at] === self::LONG) {
                /** @var array{1: int} $long */
                $long = unpack('N', $breaks, $at + 1);
                $words += $long[1];
                $at += 4;
            } else {
                $words += ord($breaks[$at]);
            }
        }

        return [$sentences === [] ? [0] : $sentences, $paragraphs];
    }
}
