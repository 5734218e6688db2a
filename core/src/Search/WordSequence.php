<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\ForwardRecord;

/** Words directly behind one another; at each place one of several words. */
final readonly class WordSequence implements StreamTest
{
    /** @var list<array<string, true>> coded words, as keys, by place */
    private array $places;

    /** The whole sequence, when each place has one word. */
    private ?string $plain;

    /**
     * @param  list<list<int>>  $places  dictionary numbers by place
     * @param  bool  $first  it must begin a text
     * @param  bool  $last  it must end a text
     */
    public function __construct(
        array $places,
        private bool $first = false,
        private bool $last = false,
    ) {
        $coded = [];
        $plain = '';
        foreach ($places as $words) {
            $coded[] = array_fill_keys(array_map(ForwardRecord::word(...), $words), true);
            $plain = $plain === null || count($words) !== 1 ? null : $plain.ForwardRecord::word($words[0]);
        }
        $this->places = $coded;
        $this->plain = $plain;
    }

    public function length(): int
    {
        return count($this->places);
    }

    public function distance(string $words, string $breaks): ?int
    {
        return $this->positions($words, 1) === [] ? null : 0;
    }

    /** @return list<int> the words' positions (0 is the first word) at which the sequence begins, ascending */
    public function positions(string $stream, int $most = PHP_INT_MAX): array
    {
        $starts = [];
        $width = ForwardRecord::WORD_BYTES;
        $needles = $this->plain !== null ? [$this->plain] : array_map(strval(...), array_keys($this->places[0] ?? []));
        foreach ($needles as $needle) {
            $at = -1;
            while (($at = strpos($stream, $needle, $at + 1)) !== false) {
                if ($at % $width === 0 && ($this->plain !== null || $this->continues($stream, $at)) && $this->isInPlace($stream, $at)) {
                    $starts[] = intdiv($at, $width);
                    if (count($starts) >= $most) {
                        return $starts;
                    }
                }
            }
        }
        sort($starts);

        return $starts;
    }

    private function continues(string $stream, int $at): bool
    {
        foreach ($this->places as $i => $words) {
            if ($i > 0 && ! isset($words[substr($stream, $at + $i * ForwardRecord::WORD_BYTES, ForwardRecord::WORD_BYTES)])) {
                return false;
            }
        }

        return true;
    }

    private function isInPlace(string $stream, int $at): bool
    {
        $width = ForwardRecord::WORD_BYTES;
        $end = $at + $this->length() * $width;

        return (! $this->first || $at === 0 || substr($stream, $at - $width, $width) === ForwardRecord::GAP)
            && (! $this->last || $end === strlen($stream) || substr($stream, $end, $width) === ForwardRecord::GAP);
    }
}
