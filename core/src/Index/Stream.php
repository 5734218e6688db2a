<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The words of one part of a document in order, as dictionary numbers of two bytes each when all are small enough, else
 * of three, big end first. Zero stands between two texts of the same part and takes the place of a word.
 */
final readonly class Stream
{
    private const MOST_NARROW = 0xFFFF;

    /**
     * @param  string  $breaks  where sentences and paragraphs end (see Breaks); empty when each text is one sentence
     * @param  int  $width  bytes a word
     */
    public function __construct(
        public string $words,
        public string $breaks,
        public int $width,
    ) {
    }

    /** @param  non-empty-list<int>  $numbers  0 between two texts */
    public static function of(array $numbers, string $breaks): self
    {
        return max($numbers) <= self::MOST_NARROW
            ? new self(pack('n*', ...$numbers), $breaks, 2)
            : new self(implode('', array_map(static fn (int $number): string => substr(pack('N', $number), 1), $numbers)), $breaks, 3);
    }

    /** @return list<int> the bytes a word may have when so many words are known */
    public static function widths(int $words): array
    {
        return $words > self::MOST_NARROW ? [2, 3] : [2];
    }

    /** A word as it stands in streams of a width; null when it cannot stand there. */
    public static function word(int $number, int $width): ?string
    {
        return $number > self::MOST_NARROW && $width === 2 ? null : substr(pack('N', $number), 4 - $width);
    }

    /** @return array<int, int> word number => how often */
    public function counts(): array
    {
        if ($this->width === 2) {
            /** @var array<int, int> $numbers */
            $numbers = (array) unpack('n*', $this->words);
            $counts = array_count_values($numbers);
        } else {
            $counts = [];
            foreach (array_count_values(str_split($this->words, 3)) as $word => $times) {
                $word = (string) $word;
                $counts[(ord($word[0]) << 16) | (ord($word[1]) << 8) | ord($word[2])] = $times;
            }
        }
        unset($counts[0]);

        return $counts;
    }

    /**
     * Where something stands, as positions of words (0 is the first).
     *
     * @return list<int> ascending
     */
    public function positions(string $needle, int $most = PHP_INT_MAX): array
    {
        $positions = [];
        $at = -1;
        while (count($positions) < $most && ($at = strpos($this->words, $needle, $at + 1)) !== false) {
            if ($at % $this->width === 0) {
                $positions[] = intdiv($at, $this->width);
            }
        }

        return $positions;
    }

    public function length(): int
    {
        return intdiv(strlen($this->words), $this->width);
    }

    /** The word at a position as it stands in the stream; empty outside of it. */
    public function at(int $position): string
    {
        return $position < 0 ? '' : substr($this->words, $position * $this->width, $this->width);
    }

    /** @return list<int> the positions at which a text begins */
    public function texts(): array
    {
        return [0, ...array_map(static fn (int $gap): int => $gap + 1, $this->positions(str_repeat("\0", $this->width)))];
    }
}
