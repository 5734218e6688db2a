<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The part of BM25F that belongs to one word in one part of a document (Robertson, Zaragoza and Taylor, “Simple BM25
 * extension to multiple weighted fields”, CIKM 2004): x / (x + k1) with x = weight·tf / (1 − b + b·length/usual), in fifteen
 * steps from 1 to 15. The weight of the part multiplies how often the word stands there before that saturates, so that no
 * part can add more than another. The other part, how rare the word is, is known only when searching and is multiplied in
 * there; so is joining the parts of a document (see Ranker).
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
     * @param  string  $part  Part value or Part::ofField
     * @param  int  $length  words in this part of the document
     */
    public static function of(int $times, string $part, int $length): int
    {
        $often = Part::weightOf($part) * $times / (1 - self::B + self::B * $length / Part::usualLength($part));

        return max(1, min(self::HIGHEST, (int) ceil(self::HIGHEST * $often / ($often + self::K1))));
    }
}
