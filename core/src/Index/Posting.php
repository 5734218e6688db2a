<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The documents of one segment that hold one term, each with an impact from 0 to 15 (what the term adds to the rank
 * of the document, see Impact). Stored as
 *
 *     'S' then 16-bit offsets, then one byte of impact each          when they are few,
 *     'B' then the bit string, then four bit strings of the impact   when they are many.
 */
final class Posting
{
    private const FEW = 4_096;

    /** Binary digits of an impact. */
    public const DIGITS = 4;

    /** Up to so many are looked up one by one when they are counted. */
    private const FEW_TO_COUNT = 256;

    /** @param  array<int, int>  $impacts offset => impact */
    private static function encodeFew(array $impacts): string
    {
        ksort($impacts);
        $scores = '';
        foreach ($impacts as $impact) {
            $scores .= chr($impact);
        }

        return 'S'.pack('v*', ...array_keys($impacts)).$scores;
    }

    /**
     * A stored posting with some entries set and some taken out.
     *
     * @param  string|null  $stored  null for none yet
     * @param  array<int, int>  $set  offset => impact
     * @param  array<int, int>  $drop  offsets to take out, as keys
     * @return string|null null when nothing is left
     */
    public static function changed(?string $stored, array $set, array $drop): ?string
    {
        if ($stored === null || $stored[0] === 'S') {
            $impacts = $set + array_diff_key($stored === null ? [] : self::few($stored), $drop);
            if ($impacts === []) {
                return null;
            }

            return count($impacts) < self::FEW ? self::encodeFew($impacts) : self::encodeMany($impacts);
        }
        $planes = str_split(substr($stored, 1), Bits::BYTES);
        $gone = ~Bits::of([...array_keys($drop), ...array_keys($set)]);
        foreach ($planes as $i => $plane) {
            $planes[$i] = $plane & $gone;
        }
        $planes[0] |= Bits::of(array_keys($set));
        foreach (self::planes($set) as $digit => $bits) {
            $planes[$digit + 1] |= $bits;
        }

        return Bits::isEmpty($planes[0]) ? null : 'B'.implode('', $planes);
    }

    /** @param  array<int, int>  $impacts */
    private static function encodeMany(array $impacts): string
    {
        return 'B'.Bits::of(array_keys($impacts)).implode('', self::planes($impacts));
    }

    /**
     * @param  array<int, int>  $impacts
     * @return list<string> DIGITS bit strings
     */
    private static function planes(array $impacts): array
    {
        $offsets = array_fill(0, self::DIGITS, []);
        foreach ($impacts as $offset => $impact) {
            for ($digit = 0; $digit < self::DIGITS; $digit++) {
                if (($impact >> $digit & 1) === 1) {
                    $offsets[$digit][] = $offset;
                }
            }
        }

        return array_map(Bits::of(...), $offsets);
    }

    /** The bit string of the documents. */
    public static function bits(string $stored): string
    {
        return $stored[0] === 'B' ? substr($stored, 1, Bits::BYTES) : self::gathered([$stored]);
    }

    public static function isFew(string $stored): bool
    {
        return $stored[0] === 'S';
    }

    /**
     * The bit string of all documents of some postings that hold few.
     *
     * @param  non-empty-list<string>  $postings
     */
    public static function gathered(array $postings): string
    {
        $offsets = '';
        foreach ($postings as $stored) {
            $offsets .= substr($stored, 1, intdiv(strlen($stored) - 1, 3) * 2);
        }

        return Bits::ofPacked($offsets);
    }

    /**
     * How many documents of some postings of one segment lie in a set, each once.
     *
     * @param  non-empty-list<string>  $postings
     */
    public static function countIn(array $postings, string $within): int
    {
        if (count($postings) === 1 && self::isFew($postings[0]) && strlen($postings[0]) < self::FEW_TO_COUNT * 3) {
            $count = 0;
            foreach (self::offsets($postings[0]) as $offset) {
                $count += ord($within[$offset >> 3]) >> ($offset & 7) & 1;
            }

            return $count;
        }
        $bits = Bits::none();
        foreach ($postings as $stored) {
            $bits |= self::bits($stored);
        }

        return Bits::count($bits & $within);
    }

    public static function count(string $stored): int
    {
        return $stored[0] === 'B' ? Bits::count(substr($stored, 1, Bits::BYTES)) : intdiv(strlen($stored) - 1, 3);
    }

    /** @return array<int, string> the impact by binary digit */
    public static function impactSlices(string $stored): array
    {
        return $stored[0] === 'B'
            ? array_slice(str_split(substr($stored, 1), Bits::BYTES), 1)
            : self::planes(self::few($stored));
    }

    /**
     * The impact of each wanted document that the posting holds.
     *
     * @param  array<int, mixed>  $wanted  offsets as keys
     * @return array<int, int> offset => impact
     */
    public static function impacts(string $stored, array $wanted): array
    {
        if ($stored[0] === 'S') {
            return array_intersect_key(self::few($stored), $wanted);
        }
        $impacts = [];
        foreach ($wanted as $offset => $_) {
            $at = 1 + ($offset >> 3);
            $bit = $offset & 7;
            if ((ord($stored[$at]) >> $bit & 1) === 0) {
                continue;
            }
            $impact = 0;
            for ($digit = 0; $digit < self::DIGITS; $digit++) {
                $at += Bits::BYTES;
                $impact |= (ord($stored[$at]) >> $bit & 1) << $digit;
            }
            $impacts[$offset] = $impact;
        }

        return $impacts;
    }

    /** @return list<int> */
    private static function offsets(string $stored): array
    {
        $count = intdiv(strlen($stored) - 1, 3);
        /** @var array<int, int> $offsets */
        $offsets = $count === 0 ? [] : (array) unpack('v*', substr($stored, 1, $count * 2));

        return array_values($offsets);
    }

    /** @return array<int, int> offset => impact */
    private static function few(string $stored): array
    {
        $offsets = self::offsets($stored);
        /** @var array<int, int> $scores */
        $scores = $offsets === [] ? [] : (array) unpack('C*', substr($stored, 1 + count($offsets) * 2));

        return array_combine($offsets, array_values($scores));
    }
}
