<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * What the index holds of one document: its words in order, by part, and the entries of its values. It tells what has
 * to be taken out when the document changes, and it is where phrases are checked.
 *
 * A word is three bytes (its number in the dictionary, big end first); three zero bytes stand between two texts of the
 * same part.
 */
final readonly class ForwardRecord
{
    public const WORD_BYTES = 3;

    public const GAP = "\0\0\0";

    /**
     * @param  array<string, string>  $words  part => words
     * @param  array<string, list<int>>  $values  field code => numbers of its values
     * @param  array<string, int>  $numbers  field code => ordinal
     * @param  list<string>  $faceted  codes of the fields whose values stand in byte columns
     */
    public function __construct(
        public array $words = [],
        public array $values = [],
        public array $numbers = [],
        public array $faceted = [],
    ) {
    }

    public static function word(int $id): string
    {
        return substr(pack('N', $id), 1);
    }

    /** @return array<int, int> word number => how often, for one part */
    public function counts(string $part): array
    {
        $words = $this->words[$part] ?? '';
        if ($words === '') {
            return [];
        }
        $counts = [];
        foreach (array_count_values(str_split($words, self::WORD_BYTES)) as $word => $times) {
            $id = (ord(((string) $word)[0]) << 16) | (ord(((string) $word)[1]) << 8) | ord(((string) $word)[2]);
            if ($id !== 0) {
                $counts[$id] = $times;
            }
        }

        return $counts;
    }

    public function encode(): string
    {
        $lengths = array_map(strlen(...), $this->words);
        $head = json_encode([$lengths, $this->values, $this->numbers, $this->faceted], JSON_THROW_ON_ERROR);

        return pack('N', strlen($head)).$head.implode('', $this->words);
    }

    public static function decode(string $stored): self
    {
        /** @var array{1: int} $size */
        $size = unpack('N', $stored);
        /** @var array{array<string, int>, array<string, list<int>>, array<string, int>, list<string>} $head */
        $head = json_decode(substr($stored, 4, $size[1]), true, 8, JSON_THROW_ON_ERROR);
        $at = 4 + $size[1];
        $words = [];
        foreach ($head[0] as $part => $length) {
            $words[$part] = substr($stored, $at, $length);
            $at += $length;
        }

        return new self($words, $head[1], $head[2], $head[3]);
    }
}
