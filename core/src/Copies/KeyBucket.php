<?php

declare(strict_types=1);

namespace Brenvic\Core\Copies;

/**
 * What is looked up by `TextPrint::keys`: of the keys that begin alike the rest of each, two bytes, with the document that has it. Kept
 * in one string, ascending by document, of which the distance to the one before is written, seven bits a byte (the variable byte code
 * of Manning, Raghavan, Schütze, Introduction to Information Retrieval, 5.3.1): four bytes an entry with a million documents,
 * of which 240 are in each.
 */
final class KeyBucket
{
    private const REST_BITS = TextPrint::KEY_BITS - TextPrint::BEGINNING;

    /** @return array{int, int} what a key begins with, which is the number of its bucket, and the rest that is kept there */
    public static function of(int $key): array
    {
        return [$key >> self::REST_BITS, $key & ((1 << self::REST_BITS) - 1)];
    }

    /**
     * @param  list<int>  $rests
     * @return string what is stored, with what a document has there now instead of what it had
     */
    public static function with(string $stored, int $document, array $rests): string
    {
        $entries = array_values(array_filter(self::entries($stored), static fn (array $entry): bool => $entry[0] !== $document));
        foreach (array_unique($rests) as $rest) {
            $entries[] = [$document, $rest];
        }
        sort($entries);
        $stored = '';
        $last = 0;
        foreach ($entries as [$of, $rest]) {
            $stored .= self::number($of - $last).pack('v', $rest);
            $last = $of;
        }

        return $stored;
    }

    /** @return list<array{int, int}> documents, ascending, and the rest of the key that each has */
    public static function entries(string $stored): array
    {
        $entries = [];
        $document = 0;
        for ($at = 0, $end = strlen($stored); $at < $end; $at += 2) {
            for ($shift = 0, $more = true; $more; $shift += 7) {
                $byte = ord($stored[$at++]);
                $document += ($byte & 0x7F) << $shift;
                $more = $byte > 0x7F;
            }
            $entries[] = [$document, ord($stored[$at]) | ord($stored[$at + 1]) << 8];
        }

        return $entries;
    }

    private static function number(int $number): string
    {
        $bytes = '';
        for (; $number > 0x7F; $number >>= 7) {
            $bytes .= chr($number & 0x7F | 0x80);
        }

        return $bytes.chr($number);
    }
}
