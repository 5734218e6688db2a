<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The documents of one segment that hold one term, each with an impact from 0 to 15 (what the term adds to the rank
 * of the document, see Impact). Stored as
 *
 *     'S' then 16-bit offsets, then four bits of impact each          when they are few,
 *     'B' then the bit string, then four bit strings of the impact    when they are many,
 *     'O' then 16-bit offsets, 'P' then the bit string                when no impact is above 0 (values of fields).
 */
final class Posting
{
    private const FEW = 4_096;

    /** Binary digits of an impact. */
    public const DIGITS = 4;

    /** Looking for one document takes as long as reading so many. */
    private const SEARCH_GAIN = 8;

    private const HEX = ['0' => 0, '1' => 1, '2' => 2, '3' => 3, '4' => 4, '5' => 5, '6' => 6, '7' => 7, '8' => 8, '9' => 9, 'a' => 10, 'b' => 11, 'c' => 12, 'd' => 13, 'e' => 14, 'f' => 15];

    /** Up to so many are looked up one by one when they are counted. */
    private const FEW_TO_COUNT = 256;

    /** @param  non-empty-array<int, int>  $impacts offset => impact */
    private static function encode(array $impacts): string
    {
        $isPlain = max($impacts) === 0;
        if (count($impacts) >= self::FEW) {
            return $isPlain ? 'P'.Bits::of(array_keys($impacts)) : 'B'.Bits::of(array_keys($impacts)).implode('', self::planes($impacts));
        }
        ksort($impacts);
        $offsets = pack('v*', ...array_keys($impacts));

        return $isPlain ? 'O'.$offsets : 'S'.$offsets.pack('H*', implode('', array_map(dechex(...), $impacts)));
    }

    /**
     * Entries written as 16-bit offsets and one hexadecimal digit of impact each.
     *
     * @return array<int, int> offset => impact
     */
    public static function read(string $offsets, string $impacts): array
    {
        /** @var array<int, int> $list */
        $list = (array) unpack('v*', $offsets);

        return array_combine($list, array_map(static fn (string $digit): int => self::HEX[$digit], str_split($impacts)));
    }

    /**
     * A stored posting with entries behind all it has.
     *
     * @param  string|null  $stored  null for none yet
     * @param  string  $offsets  16 bits each
     * @param  string  $impacts  one hexadecimal digit each
     * @return string|null null when it is not as simple as that: they do not ascend, are not behind, or too many
     */
    public static function appended(?string $stored, string $offsets, string $impacts): ?string
    {
        $before = '';
        $digits = '';
        if ($stored !== null) {
            if (! self::isFew($stored)) {
                return null;
            }
            $count = self::countFew($stored);
            $before = substr($stored, 1, 2 * $count);
            $digits = $stored[0] === 'O' ? str_repeat('0', $count) : substr(bin2hex(substr($stored, 1 + 2 * $count)), 0, $count);
        }
        if (! self::isAscending($before, $offsets)) {
            return null;
        }
        $digits .= $impacts;
        if (strlen($digits) >= self::FEW) {
            return null;
        }

        return trim($digits, '0') === '' ? 'O'.$before.$offsets : 'S'.$before.$offsets.pack('H*', $digits);
    }

    /** Whether 16-bit offsets ascend, and lie behind others that do. */
    private static function isAscending(string $before, string $offsets): bool
    {
        /** @var list<int> $list */
        $list = array_values((array) unpack('v*', $before === '' ? $offsets : substr($before, -2).$offsets));
        $sorted = $list;
        sort($sorted);

        return $sorted === $list && count($list) === count(array_flip($list));
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
        if ($stored === null || self::isFew($stored)) {
            $impacts = $set + array_diff_key($stored === null ? [] : self::few($stored), $drop);

            return $impacts === [] ? null : self::encode($impacts);
        }
        $planes = str_split(substr($stored, 1), Bits::BYTES);
        $gone = Bits::of([...array_keys($drop), ...array_keys($set)]);
        $isPlain = $stored[0] === 'P' && ($set === [] || max($set) === 0);
        $new = [Bits::of(array_keys($set)), ...$isPlain ? [] : self::planes($set)];
        foreach ($new as $i => $bits) {
            $planes[$i] = Bits::or(Bits::minus($planes[$i] ?? Bits::none(), $gone), $bits);
        }

        return Bits::isEmpty($planes[0]) ? null : ($isPlain ? 'P' : 'B').implode('', $planes);
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
        return self::isFew($stored) ? self::gathered([$stored]) : substr($stored, 1, Bits::BYTES);
    }

    public static function isFew(string $stored): bool
    {
        return $stored[0] === 'S' || $stored[0] === 'O';
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
            $offsets .= substr($stored, 1, 2 * self::countFew($stored));
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
        if (count($postings) === 1 && self::isFew($postings[0]) && self::countFew($postings[0]) <= self::FEW_TO_COUNT) {
            $count = 0;
            foreach (self::offsets($postings[0]) as $offset) {
                $count += ord($within[$offset >> 3]) >> ($offset & 7) & 1;
            }

            return $count;
        }
        $bits = self::bits($postings[0]);
        for ($i = 1; $i < count($postings); $i++) {
            $bits = Bits::or($bits, self::bits($postings[$i]));
        }

        return Bits::countCommon($bits, $within);
    }

    /** How many documents a posting of few holds. */
    public static function countFew(string $stored): int
    {
        return $stored[0] === 'O' ? intdiv(strlen($stored) - 1, 2) : intdiv((strlen($stored) - 1) * 2, 5);
    }

    /** @return array<int, string> the impact by binary digit */
    public static function impactSlices(string $stored): array
    {
        return match ($stored[0]) {
            'B' => array_slice(str_split(substr($stored, 1), Bits::BYTES), 1),
            'S' => self::planes(self::few($stored)),
            default => array_fill(0, self::DIGITS, Bits::none()),
        };
    }

    /**
     * The impact of each wanted document that the posting holds.
     *
     * @param  array<int, mixed>  $wanted  offsets as keys
     * @return array<int, int> offset => impact
     */
    public static function impacts(string $stored, array $wanted): array
    {
        if (self::isFew($stored)) {
            return count($wanted) * self::SEARCH_GAIN < self::countFew($stored) ? self::looked($stored, $wanted) : array_intersect_key(self::few($stored), $wanted);
        }
        $impacts = [];
        $digits = $stored[0] === 'P' ? 0 : self::DIGITS;
        foreach ($wanted as $offset => $_) {
            $at = 1 + ($offset >> 3);
            $bit = $offset & 7;
            if ((ord($stored[$at]) >> $bit & 1) === 0) {
                continue;
            }
            $impact = 0;
            for ($digit = 0; $digit < $digits; $digit++) {
                $at += Bits::BYTES;
                $impact |= (ord($stored[$at]) >> $bit & 1) << $digit;
            }
            $impacts[$offset] = $impact;
        }

        return $impacts;
    }

    /**
     * @param  array<int, mixed>  $wanted  offsets as keys
     * @return array<int, int>
     */
    private static function looked(string $stored, array $wanted): array
    {
        $count = self::countFew($stored);
        $offsets = substr($stored, 1, 2 * $count);
        $impacts = [];
        foreach ($wanted as $offset => $_) {
            $packed = chr($offset & 0xFF).chr($offset >> 8);
            $at = -1;
            do {
                $at = strpos($offsets, $packed, $at + 1);
            } while ($at !== false && ($at & 1) === 1);
            if ($at !== false) {
                $place = $at >> 1;
                $byte = $stored[0] === 'O' ? 0 : ord($stored[1 + 2 * $count + ($place >> 1)]);
                $impacts[$offset] = ($place & 1) === 0 ? $byte >> 4 : $byte & 0xF;
            }
        }

        return $impacts;
    }

    /** @return list<int> */
    private static function offsets(string $stored): array
    {
        $count = self::countFew($stored);
        /** @var array<int, int> $offsets */
        $offsets = $count === 0 ? [] : (array) unpack('v*', substr($stored, 1, $count * 2));

        return array_values($offsets);
    }

    /** @return array<int, int> offset => impact */
    private static function few(string $stored): array
    {
        $offsets = self::offsets($stored);
        if ($stored[0] === 'O') {
            return array_fill_keys($offsets, 0);
        }
        $impacts = [];
        $digits = bin2hex(substr($stored, 1 + 2 * count($offsets)));
        foreach ($offsets as $i => $offset) {
            $impacts[$offset] = self::HEX[$digits[$i]];
        }

        return $impacts;
    }
}
