<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * What the index holds of one document: its words in order, by part, and the entries of its values. It tells what has
 * to be taken out when the document changes, and it is where phrases and nearness are checked. Stored as
 *
 *     how many parts, then for each its number, twice the length of its words (plus 1 if they are wide), the length of
 *     its breaks; words and breaks of each part;
 *     how many fields, then for each by number its step from the one before, times 4 (plus 2 if faceted, plus 1 if it
 *     has other than one value, whose count then follows), the values;
 *     how many fields with ordinals, then for each its step, times 4 (plus 2 if they are counted from the ordinal of the
 *     number zero, plus 1 if it has other than one, whose count then follows), the ordinals;
 *
 * all but words and breaks as variable-length integers of seven bits a byte, lowest first.
 */
final readonly class ForwardRecord
{
    private const WIDE = 3;

    /** The ordinal of the number zero (FieldDefinition::numberOrdinal). Up to so far from it ordinals are counted from there. */
    private const ZERO = 10 ** 16;

    private const NEAR = 2 ** 52;

    /**
     * @param  array<int, Stream>  $streams  by part number
     * @param  array<int, list<int>>  $values  field number => numbers of its values
     * @param  array<int, list<int>>  $ordinals  field number => ordinals, ascending
     * @param  list<int>  $faceted  numbers of the fields whose values stand in byte columns
     */
    public function __construct(
        public array $streams = [],
        public array $values = [],
        public array $ordinals = [],
        public array $faceted = [],
    ) {
    }

    public function encode(): string
    {
        $head = self::integer(count($this->streams));
        $body = '';
        foreach ($this->streams as $part => $stream) {
            $head .=
                self::integer($part).
                self::integer(strlen($stream->words) * 2 + ($stream->width === self::WIDE ? 1 : 0)).
                self::integer(strlen($stream->breaks));
            $body .= $stream->words.$stream->breaks;
        }
        $tail = self::integer(count($this->values));
        $before = 0;
        foreach (self::byNumber($this->values) as $field => $values) {
            $isOne = count($values) === 1;
            $tail .= self::integer((($field - $before) << 2) | (in_array($field, $this->faceted, true) ? 2 : 0) | ($isOne ? 0 : 1));
            $tail .= ($isOne ? '' : self::integer(count($values))).implode('', array_map(self::integer(...), $values));
            $before = $field;
        }
        $tail .= self::integer(count($this->ordinals));
        $before = 0;
        foreach (self::byNumber($this->ordinals) as $field => $ordinals) {
            $isOne = count($ordinals) === 1;
            $isNear =
                $ordinals !== [] && max(array_map(static fn (int $ordinal): int => abs($ordinal - self::ZERO), $ordinals)) < self::NEAR;
            $tail .= self::integer((($field - $before) << 2) | ($isNear ? 2 : 0) | ($isOne ? 0 : 1));
            $tail .=
                ($isOne ? '' : self::integer(count($ordinals))).
                implode('', array_map($isNear ? self::distance(...) : self::integer(...), $ordinals));
            $before = $field;
        }

        return $head.$body.$tail;
    }

    public static function decode(string $stored): self
    {
        $streams = $values = $ordinals = $faceted = [];
        $at = 0;
        foreach (self::heads($stored, $at) as $part => $lengths) {
            $streams[$part] = self::stream($stored, $at, $lengths);
            $at += ($lengths[0] >> 1) + $lengths[1];
        }
        $field = 0;
        for ($fields = self::read($stored, $at); $fields > 0; $fields--) {
            $step = self::read($stored, $at);
            $field += $step >> 2;
            if (($step & 2) !== 0) {
                $faceted[] = $field;
            }
            $values[$field] = [];
            for ($count = ($step & 1) === 0 ? 1 : self::read($stored, $at); $count > 0; $count--) {
                $values[$field][] = self::read($stored, $at);
            }
        }
        $field = 0;
        for ($fields = self::read($stored, $at); $fields > 0; $fields--) {
            $step = self::read($stored, $at);
            $field += $step >> 2;
            $ordinals[$field] = [];
            for ($count = ($step & 1) === 0 ? 1 : self::read($stored, $at); $count > 0; $count--) {
                $ordinals[$field][] = ($step & 2) === 0 ? self::read($stored, $at) : self::ordinalAt(self::read($stored, $at));
            }
        }

        return new self($streams, $values, $ordinals, $faceted);
    }

    /**
     * Some parts, without reading the rest.
     *
     * @param  array<int, mixed>  $wanted  numbers of parts, as keys
     * @return list<Stream>
     */
    public static function parts(string $stored, array $wanted): array
    {
        $at = 0;
        $before = 0;
        $found = [];
        // Written out, for phrases read this of thousands of records: nearly all of these numbers are of one byte.
        for ($count = self::read($stored, $at); $count > 0; $count--) {
            $part = ord($stored[$at]) < 0x80 ? ord($stored[$at++]) : self::read($stored, $at);
            $words = ord($stored[$at]) < 0x80 ? ord($stored[$at++]) : self::read($stored, $at);
            $breaks = ord($stored[$at]) < 0x80 ? ord($stored[$at++]) : self::read($stored, $at);
            if (isset($wanted[$part])) {
                $found[] = [$words, $breaks, $before];
            }
            $before += ($words >> 1) + $breaks;
        }
        $streams = [];
        foreach ($found as $of) {
            $streams[] = self::stream($stored, $at + $of[2], $of);
        }

        return $streams;
    }

    /**
     * Whether words stand in some part, all at once and in their order, without making anything of the record.
     *
     * @param  array<int, mixed>  $wanted  numbers of parts, as keys
     * @param  array<int, string>  $needles  the words as they stand in streams of each width; none for a width they cannot stand in
     */
    public static function holds(string $stored, array $wanted, array $needles): bool
    {
        $at = 0;
        $before = 0;
        $found = [];
        for ($count = self::read($stored, $at); $count > 0; $count--) {
            $part = ord($stored[$at]) < 0x80 ? ord($stored[$at++]) : self::read($stored, $at);
            $words = ord($stored[$at]) < 0x80 ? ord($stored[$at++]) : self::read($stored, $at);
            $breaks = ord($stored[$at]) < 0x80 ? ord($stored[$at++]) : self::read($stored, $at);
            if (isset($wanted[$part])) {
                $found[] = [$before, $words];
            }
            $before += ($words >> 1) + $breaks;
        }
        foreach ($found as [$start, $words]) {
            $width = 2 + ($words & 1);
            $needle = $needles[$width] ?? '';
            $start += $at;
            $last = $start + ($words >> 1) - strlen($needle);
            for (
                $place = $needle === '' ? false : strpos($stored, $needle, $start);
                $place !== false && $place <= $last;
                $place = strpos($stored, $needle, $place + 1)
            ) {
                if (($place - $start) % $width === 0) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * @param  int  $at  is moved behind the list of parts
     * @return array<int, array{int, int}> part => twice the bytes of its words (plus 1 if wide), bytes of its breaks
     */
    private static function heads(string $stored, int &$at): array
    {
        $parts = [];
        for ($count = self::read($stored, $at); $count > 0; $count--) {
            $part = self::read($stored, $at);
            $words = self::read($stored, $at);
            $parts[$part] = [$words, self::read($stored, $at)];
        }

        return $parts;
    }

    /** @param  array{0: int, 1: int}  $lengths */
    private static function stream(string $stored, int $at, array $lengths): Stream
    {
        $bytes = $lengths[0] >> 1;

        return new Stream(substr($stored, $at, $bytes), substr($stored, $at + $bytes, $lengths[1]), 2 + ($lengths[0] & 1));
    }

    /**
     * @template T
     *
     * @param  array<int, T>  $fields
     * @return array<int, T> ascending by number
     */
    private static function byNumber(array $fields): array
    {
        ksort($fields);

        return $fields;
    }

    /** An ordinal as its distance from zero; below and above take turns: 0, −1, 1, −2, 2 … */
    private static function distance(int $ordinal): string
    {
        $distance = $ordinal - self::ZERO;

        return self::integer($distance < 0 ? -2 * $distance - 1 : 2 * $distance);
    }

    private static function ordinalAt(int $distance): int
    {
        return self::ZERO + (($distance & 1) === 0 ? $distance >> 1 : -(($distance + 1) >> 1));
    }

    private static function integer(int $number): string
    {
        $bytes = '';
        while ($number > 0x7F) {
            $bytes .= chr(($number & 0x7F) | 0x80);
            $number >>= 7;
        }

        return $bytes.chr($number);
    }

    private static function read(string $stored, int &$at): int
    {
        $number = 0;
        for ($shift = 0; ; $shift += 7) {
            $byte = ord($stored[$at++]);
            $number |= ($byte & 0x7F) << $shift;
            if ($byte < 0x80) {
                return $number;
            }
        }
    }
}
