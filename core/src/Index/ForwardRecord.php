<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * What the index holds of one document: its words in order, by part, and the entries of its values. It tells what has
 * to be taken out when the document changes, and it is where phrases and nearness are checked.
 *
 * A word is three bytes (its number in the dictionary, big end first); three zero bytes stand between two texts of the
 * same part. Stored as
 *
 *     how many parts (1 byte), then for each its number (2 bytes) and the lengths of its words and breaks (4 bytes each),
 *     words and breaks of each part,
 *     how many fields, then for each its number, twice the count of its values (plus 1 if faceted), the values,
 *     how many fields with ordinals, then for each its number, the count, the ordinals;
 *
 * all from the third line on as variable-length integers of seven bits a byte, lowest first.
 */
final readonly class ForwardRecord
{
    public const WORD_BYTES = 3;

    public const GAP = "\0\0\0";

    private const PART_BYTES = 10;

    /**
     * @param  array<int, string>  $words  part number => words
     * @param  array<int, string>  $breaks  part number => where sentences and paragraphs end (see Breaks)
     * @param  array<int, list<int>>  $values  field number => numbers of its values
     * @param  array<int, list<int>>  $ordinals  field number => ordinals, ascending
     * @param  list<int>  $faceted  numbers of the fields whose values stand in byte columns
     */
    public function __construct(
        public array $words = [],
        public array $breaks = [],
        public array $values = [],
        public array $ordinals = [],
        public array $faceted = [],
    ) {
    }

    public static function word(int $number): string
    {
        return substr(pack('N', $number), 1);
    }

    /** @return array<int, int> word number => how often, for one part */
    public function counts(int $part): array
    {
        $words = $this->words[$part] ?? '';
        if ($words === '') {
            return [];
        }
        $counts = [];
        foreach (array_count_values(str_split($words, self::WORD_BYTES)) as $word => $times) {
            $word = (string) $word;
            $number = (ord($word[0]) << 16) | (ord($word[1]) << 8) | ord($word[2]);
            if ($number !== 0) {
                $counts[$number] = $times;
            }
        }

        return $counts;
    }

    public function encode(): string
    {
        $head = chr(count($this->words));
        $body = '';
        foreach ($this->words as $part => $words) {
            $breaks = $this->breaks[$part] ?? '';
            $head .= pack('nNN', $part, strlen($words), strlen($breaks));
            $body .= $words.$breaks;
        }
        $tail = self::integer(count($this->values));
        foreach ($this->values as $field => $values) {
            $tail .= self::integer($field).self::integer(count($values) * 2 + (in_array($field, $this->faceted, true) ? 1 : 0));
            $tail .= implode('', array_map(self::integer(...), $values));
        }
        $tail .= self::integer(count($this->ordinals));
        foreach ($this->ordinals as $field => $ordinals) {
            $tail .= self::integer($field).self::integer(count($ordinals)).implode('', array_map(self::integer(...), $ordinals));
        }

        return $head.$body.$tail;
    }

    public static function decode(string $stored): self
    {
        $words = $breaks = $values = $ordinals = $faceted = [];
        $at = 1 + ord($stored[0]) * self::PART_BYTES;
        foreach (self::parts($stored) as [$part, $wordBytes, $breakBytes]) {
            $words[$part] = substr($stored, $at, $wordBytes);
            if ($breakBytes > 0) {
                $breaks[$part] = substr($stored, $at + $wordBytes, $breakBytes);
            }
            $at += $wordBytes + $breakBytes;
        }
        for ($fields = self::read($stored, $at); $fields > 0; $fields--) {
            $field = self::read($stored, $at);
            $count = self::read($stored, $at);
            if (($count & 1) === 1) {
                $faceted[] = $field;
            }
            $values[$field] = [];
            for ($count >>= 1; $count > 0; $count--) {
                $values[$field][] = self::read($stored, $at);
            }
        }
        for ($fields = self::read($stored, $at); $fields > 0; $fields--) {
            $field = self::read($stored, $at);
            $ordinals[$field] = [];
            for ($count = self::read($stored, $at); $count > 0; $count--) {
                $ordinals[$field][] = self::read($stored, $at);
            }
        }

        return new self($words, $breaks, $values, $ordinals, $faceted);
    }

    /**
     * The words and breaks of one part, without reading the rest.
     *
     * @return array{string, string}|null
     */
    public static function part(string $stored, int $wanted): ?array
    {
        $at = 1 + ord($stored[0]) * self::PART_BYTES;
        foreach (self::parts($stored) as [$part, $wordBytes, $breakBytes]) {
            if ($part === $wanted) {
                return [substr($stored, $at, $wordBytes), substr($stored, $at + $wordBytes, $breakBytes)];
            }
            $at += $wordBytes + $breakBytes;
        }

        return null;
    }

    /** @return list<array{int, int, int}> number, bytes of words, bytes of breaks */
    private static function parts(string $stored): array
    {
        $parts = [];
        for ($i = 0, $count = ord($stored[0]); $i < $count; $i++) {
            /** @var array{a: int, b: int, c: int} $part */
            $part = unpack('na/Nb/Nc', $stored, 1 + $i * self::PART_BYTES);
            $parts[] = [$part['a'], $part['b'], $part['c']];
        }

        return $parts;
    }

    private static function integer(int $number): string
    {
        $bytes = '';
        while ($number > 0x7F) {
            $bytes .= chr($number & 0x7F | 0x80);
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
