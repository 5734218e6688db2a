<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The part of BM25 (Robertson and Zaragoza, “The probabilistic relevance framework”, 2009) that belongs to one word in
 * one document, tf·(k1+1) / (tf + k1·(1 − b + b·length/usual)), in fifteen steps from 1 to 15. The other part, how
 * rare the word is, is known only when searching and is multiplied in there.
 *
 * `usual` is a fixed length for each part instead of the average of the collection: so an impact depends on its own
 * document alone, does not drift while the collection grows, and tells nothing about documents the asker may not see.
 */
final class Impact
{
    private const K1 = 1.2;

    private const B = 0.4;

    public const HIGHEST = 15;

    /**
     * @param  int  $times  how often the word stands in this part of the document, 1 or more
     * @param  int  $length  words in this part of the document
     * @param  int  $usual  words that such a part usually has (Part::usualLength)
     */
    public static function of(int $times, int $length, int $usual): int
    {
        $norm = self::K1 * (1 - self::B + self::B * $length / $usual);

        return max(1, min(self::HIGHEST, (int) ceil(self::HIGHEST * $times / ($times + $norm))));
    }
}
