<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The documents of one segment that hold one term. What a term adds to the rank of a document (see Impact) is mostly what
 * any word adds that stands there once, and is kept for each part of a document instead of each of its words; only
 * documents in which the term has another impact, from 1 to 15, are named with it here. Stored as
 *
 *     'O' then a list of offsets                                              when they are few,
 *     'S' then how many have an impact of their own, the list of offsets, the
 *         offsets of those, four bits of impact each                          when some of these have,
 *     'P' then the bit string                                                 when they are many,
 *     'L' then the bit string, the offsets of those with an impact of their
 *         own, four bits of impact each                                       when some of these have,
 *     'B' then the bit string, four bit strings of the impact (0 for the
 *         usual one)                                                          when many of these have.
 *
 * All integers are of 16 bits, low end first. A list of offsets that is long is split (and the letter before it is small):
 * how many have each high byte, in 256 bytes; then the low bytes.
 */
final class Posting
{
    private const FEW = 4_096;

    /** A list this long is split. */
    private const LONG = 512;

    private const HIGH_BYTES = 256;

    /** Up to so many impacts of their own are listed when the documents are many. */
    private const FEW_OWN = 2_048;

    /** Binary digits of an impact. */
    public const DIGITS = 4;

    /** Looking for one document takes as long as reading so many. */
    private const SEARCH_GAIN = 6;

    /** The same in a list that is split. */
    private const SPLIT_GAIN = 3;

    private const HEX = [
        '0' => 0,
        '1' => 1,
        '2' => 2,
        '3' => 3,
        '4' => 4,
        '5' => 5,
        '6' => 6,
        '7' => 7,
        '8' => 8,
        '9' => 9,
        'a' => 10,
        'b' => 11,
        'c' => 12,
        'd' => 13,
        'e' => 14,
        'f' => 15,
    ];

    /** Up to so many are looked up one by one when they are counted. */
    private const FEW_TO_COUNT = 256;

    /** @param  non-empty-array<int, int>  $impacts offset => impact, 0 for the usual one */
    private static function encode(array $impacts): string
    {
        if (count($impacts) >= self::FEW) {
            return self::manyOf(Bits::of(array_keys($impacts)), array_filter($impacts));
        }
        ksort($impacts);
        $own = array_filter($impacts);

        return self::fewOf(pack('v*', ...array_keys($impacts)), count($own), $own === [] ? '' : self::listed($own));
    }

    /**
     * A posting of many.
     *
     * @param  array<int, int>  $own  offset => impact of those that have one of their own
     */
    private static function manyOf(string $bits, array $own): string
    {
        ksort($own);

        return match (true) {
            $own === [] => 'P'.$bits,
            count($own) <= self::FEW_OWN => 'L'.$bits.self::listed($own),
            default => 'B'.$bits.implode('', self::planes($own)),
        };
    }

    /**
     * A posting of few.
     *
     * @param  string  $offsets  16 bits each, ascending
     * @param  int  $count  how many have an impact of their own
     * @param  string  $own  their offsets and impacts
     */
    private static function fewOf(string $offsets, int $count, string $own): string
    {
        $split = strlen($offsets) < 2 * self::LONG ? null : self::split($offsets);

        return self::written($split ?? $offsets, $split !== null, $count, $own);
    }

    private static function written(string $list, bool $isSplit, int $count, string $own): string
    {
        $letter = $count === 0 ? 'O' : 'S';

        return ($isSplit ? strtolower($letter) : $letter).($count === 0 ? '' : pack('v', $count)).$list.$own;
    }

    /** @return string|null null when a high byte has more than can be said in a byte */
    private static function split(string $offsets): ?string
    {
        $high = $low = '';
        foreach (str_split($offsets, 2) as $offset) {
            $low .= $offset[0];
            $high .= $offset[1];
        }
        /** @var non-empty-array<int, int> $counts */
        $counts = count_chars($high);

        return max($counts) >= self::HIGH_BYTES ? null : implode('', array_map(chr(...), $counts)).$low;
    }

    private static function joined(string $split): string
    {
        $offsets = '';
        $at = self::HIGH_BYTES;
        for ($byte = 0; $byte < self::HIGH_BYTES; $byte++) {
            $count = ord($split[$byte]);
            if ($count > 0) {
                $high = chr($byte);
                $offsets .= implode($high, str_split(substr($split, $at, $count))).$high;
                $at += $count;
            }
        }

        return $offsets;
    }

    /** @param  array<int, int>  $own  offset => impact, ascending */
    private static function listed(array $own): string
    {
        return pack('v*', ...array_keys($own)).pack('H*', implode('', array_map(dechex(...), $own)));
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
     * @param  string  $impacts  one hexadecimal digit each, 0 for the usual impact
     * @return string|null null when it is not as simple as that: they do not ascend, are not behind, or too many
     */
    public static function appended(?string $stored, string $offsets, string $impacts): ?string
    {
        $list = $own = $digits = '';
        $isSplit = false;
        if ($stored !== null) {
            if (! self::isFew($stored)) {
                return null;
            }
            $isSplit = ctype_lower($stored[0]);
            $list = self::list($stored);
            [$own, $digits] = self::ownPacked($stored);
        }
        $count = $isSplit ? strlen($list) - self::HIGH_BYTES : strlen($list) >> 1;
        if (
            $count + (strlen($offsets) >> 1) >= self::FEW ||
            ! self::isAscending($isSplit ? self::lastOfSplit($list) : substr($list, -2), $offsets)
        ) {
            return null;
        }
        foreach (str_split(trim($impacts, '0') === '' ? '' : $impacts) as $i => $digit) {
            if ($digit !== '0') {
                $own .= substr($offsets, 2 * $i, 2);
                $digits .= $digit;
            }
        }
        $listed = $own.pack('H*', $digits);
        if (! $isSplit) {
            return self::fewOf($list.$offsets, strlen($own) >> 1, $listed);
        }
        $split = self::addedToSplit($list, $offsets);

        return $split === null ? null : self::written($split, true, strlen($own) >> 1, $listed);
    }

    private static function lastOfSplit(string $split): string
    {
        return substr($split, -1).chr(strlen(rtrim(substr($split, 0, self::HIGH_BYTES), "\0")) - 1);
    }

    /**
     * A split list with offsets behind all it has.
     *
     * @return string|null null when a high byte has more than can be said in a byte
     */
    private static function addedToSplit(string $split, string $offsets): ?string
    {
        foreach (str_split($offsets, 2) as $offset) {
            $high = ord($offset[1]);
            $count = ord($split[$high]) + 1;
            if ($count >= self::HIGH_BYTES) {
                return null;
            }
            $split[$high] = chr($count);
            $split .= $offset[0];
        }

        return $split;
    }

    /** Whether 16-bit offsets ascend, and lie behind another, if there is one. */
    private static function isAscending(string $before, string $offsets): bool
    {
        /** @var list<int> $list */
        $list = array_values((array) unpack('v*', $before.$offsets));
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
        $gone = Bits::of([...array_keys($drop), ...array_keys($set)]);
        $bits = Bits::or(Bits::minus(substr($stored, 1, Bits::BYTES), $gone), Bits::of(array_keys($set)));
        if (Bits::isEmpty($bits)) {
            return null;
        }
        if ($stored[0] !== 'B') {
            return self::manyOf($bits, array_filter($set) + array_diff_key(self::own($stored), $drop, $set));
        }
        $planes = self::ownSlices($stored);
        foreach (self::planes($set) as $i => $new) {
            $planes[$i] = Bits::or(Bits::minus($planes[$i], $gone), $new);
        }

        return 'B'.$bits.implode('', $planes);
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
                if ((($impact >> $digit) & 1) === 1) {
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
        return match ($stored[0]) {
            'O', 'o', 'S', 's' => true,
            default => false,
        };
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
            $offsets .= self::packed($stored);
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
                $count += (ord($within[$offset >> 3]) >> ($offset & 7)) & 1;
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
        if ($stored[0] === 'O') {
            return (strlen($stored) - 1) >> 1;
        }
        $length = strlen(self::list($stored));

        return ctype_lower($stored[0]) ? $length - self::HIGH_BYTES : $length >> 1;
    }

    /** The offsets of a posting of few, 16 bits each. */
    private static function packed(string $stored): string
    {
        return match ($stored[0]) {
            'O' => substr($stored, 1),
            'S' => self::list($stored),
            default => self::joined(self::list($stored)),
        };
    }

    /** The list of offsets of a posting of few as it is stored. */
    private static function list(string $stored): string
    {
        $own = self::countOwn($stored);

        return $own === 0 ? substr($stored, 1) : substr($stored, 3, -2 * $own - intdiv($own + 1, 2));
    }

    /** How many documents have an impact of their own; not for planes. */
    private static function countOwn(string $stored): int
    {
        return match ($stored[0]) {
            'S', 's' => ord($stored[1]) | (ord($stored[2]) << 8),
            'L' => intdiv((strlen($stored) - 1 - Bits::BYTES) * 2, 5),
            default => 0,
        };
    }

    /** @return array{string, string} the offsets of those with an impact of their own, and one hexadecimal digit each; not for planes */
    private static function ownPacked(string $stored): array
    {
        $own = self::countOwn($stored);
        if ($own === 0) {
            return ['', ''];
        }
        $digits = intdiv($own + 1, 2);

        return [substr($stored, -2 * $own - $digits, 2 * $own), substr(bin2hex(substr($stored, -$digits)), 0, $own)];
    }

    /** @return array<int, int> offset => impact of those that have one of their own; not for planes */
    private static function own(string $stored): array
    {
        [$offsets, $digits] = self::ownPacked($stored);

        return $offsets === '' ? [] : self::read($offsets, $digits);
    }

    /** @return list<string> the impacts of their own that some documents have, by binary digit */
    public static function ownSlices(string $stored): array
    {
        return $stored[0] === 'B' ? array_slice(str_split(substr($stored, 1), Bits::BYTES), 1) : self::planes(self::own($stored));
    }

    /**
     * @param  string  $bits  of the posting's documents
     * @param  list<string>  $usual  the impact of a word that stands once, by binary digit
     * @return list<string> the impact by binary digit
     */
    public static function impactSlices(string $stored, string $bits, array $usual): array
    {
        if (self::countOwn($stored) === 0 && $stored[0] !== 'B') {
            return array_map(static fn (string $slice): string => Bits::and($slice, $bits), $usual);
        }
        $own = self::ownSlices($stored);
        $rest = Bits::minus($bits, array_reduce($own, Bits::or(...), Bits::none()));

        return array_map(static fn (string $slice, string $own): string => Bits::or(Bits::and($slice, $rest), $own), $usual, $own);
    }

    /**
     * @param  list<string>  $slices  of the impact of a word that stands once
     * @param  list<int>  $offsets
     * @return array<int, int> offset => that impact
     */
    public static function usualImpacts(array $slices, array $offsets): array
    {
        $impacts = [];
        foreach ($offsets as $offset) {
            $at = $offset >> 3;
            $bit = $offset & 7;
            $impacts[$offset] =
                ((ord($slices[0][$at]) >> $bit) & 1) |
                (((ord($slices[1][$at]) >> $bit) & 1) << 1) |
                (((ord($slices[2][$at]) >> $bit) & 1) << 2) |
                (((ord($slices[3][$at]) >> $bit) & 1) << 3);
        }

        return $impacts;
    }

    /**
     * The impact of each wanted document that the posting holds.
     *
     * @param  array<int, int>  $usual  offset => impact of a word that stands once there, of those that are wanted
     * @return array<int, int> offset => impact
     */
    public static function impacts(string $stored, array $usual): array
    {
        if (self::isFew($stored)) {
            $held = self::held($stored, $usual);
        } else {
            $held = [];
            foreach ($usual as $offset => $impact) {
                if (((ord($stored[1 + ($offset >> 3)]) >> ($offset & 7)) & 1) === 1) {
                    $held[$offset] = $impact;
                }
            }
        }
        if ($held === []) {
            return [];
        }

        return $stored[0] === 'B' ? self::withPlanes($stored, $held) : self::ownAmong($stored, $held) + $held;
    }

    /**
     * @param  array<int, int>  $held
     * @return array<int, int>
     */
    private static function withPlanes(string $stored, array $held): array
    {
        foreach ($held as $offset => $usual) {
            $at = 1 + ($offset >> 3);
            $bit = $offset & 7;
            $impact = 0;
            for ($digit = 0; $digit < self::DIGITS; $digit++) {
                $at += Bits::BYTES;
                $impact |= ((ord($stored[$at]) >> $bit) & 1) << $digit;
            }
            if ($impact !== 0) {
                $held[$offset] = $impact;
            }
        }

        return $held;
    }

    /**
     * Those of some documents that a posting of few holds, by way of the shorter of the two.
     *
     * @param  array<int, int>  $wanted  offset => impact
     * @return array<int, int>
     */
    private static function held(string $stored, array $wanted): array
    {
        $count = self::countFew($stored);
        $held = [];
        $isSplit = ctype_lower($stored[0]);
        if (count($wanted) * ($isSplit ? self::SPLIT_GAIN : self::SEARCH_GAIN) < $count) {
            $list = self::list($stored);
            $begins = $isSplit ? self::begins($list) : null;
            foreach ($wanted as $offset => $impact) {
                if ($begins === null ? self::place($list, $offset) !== null : self::standsIn($list, $begins, $offset)) {
                    $held[$offset] = $impact;
                }
            }

            return $held;
        }
        $offsets = self::offsets($stored);
        if ($count * 2 > count($wanted)) {
            return array_intersect_key($wanted, array_flip($offsets));
        }
        foreach ($offsets as $offset) {
            if (isset($wanted[$offset])) {
                $held[$offset] = $wanted[$offset];
            }
        }

        return $held;
    }

    /**
     * The impacts of their own that some documents have.
     *
     * @param  array<int, int>  $held  offsets as keys
     * @return array<int, int>
     */
    private static function ownAmong(string $stored, array $held): array
    {
        if (count($held) * self::SEARCH_GAIN >= self::countOwn($stored)) {
            return array_intersect_key(self::own($stored), $held);
        }
        [$offsets, $digits] = self::ownPacked($stored);
        $own = [];
        foreach ($held as $offset => $_) {
            $place = self::place($offsets, $offset);
            if ($place !== null) {
                $own[$offset] = self::HEX[$digits[$place]];
            }
        }

        return $own;
    }

    /** Where an offset stands in a list of them that is not split. */
    private static function place(string $offsets, int $offset): ?int
    {
        $packed = chr($offset & 0xFF).chr($offset >> 8);
        $at = -1;
        do {
            $at = strpos($offsets, $packed, $at + 1);
        } while ($at !== false && ($at & 1) === 1);

        return $at === false ? null : $at >> 1;
    }

    /** @return list<int> where the low bytes of each high byte begin in a split list */
    private static function begins(string $split): array
    {
        $begins = [];
        $at = self::HIGH_BYTES;
        for ($byte = 0; $byte < self::HIGH_BYTES; $byte++) {
            $begins[] = $at;
            $at += ord($split[$byte]);
        }

        return $begins;
    }

    /** @param  list<int>  $begins */
    private static function standsIn(string $split, array $begins, int $offset): bool
    {
        $high = $offset >> 8;

        return str_contains(substr($split, $begins[$high], ord($split[$high])), chr($offset & 0xFF));
    }

    /** @return list<int> */
    private static function offsets(string $stored): array
    {
        return self::unpacked(self::packed($stored));
    }

    /** @return list<int> */
    private static function unpacked(string $offsets): array
    {
        /** @var array<int, int> $list */
        $list = $offsets === '' ? [] : (array) unpack('v*', $offsets);

        return array_values($list);
    }

    /** @return array<int, int> offset => impact, 0 for the usual one */
    private static function few(string $stored): array
    {
        return self::own($stored) + array_fill_keys(self::offsets($stored), 0);
    }
}
