<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\Stream;

/** Words directly behind one another; at each place one of several words. */
final class WordSequence implements StreamTest
{
    /** More ways in which a sequence can be written than this are not worth looking for. */
    private const MOST_NEEDLES = 8;

    /** @var array<int, list<array<string, true>>> width of the stream => by place the words as they stand there, as keys */
    private array $places = [];

    /** @var array<int, string|null> width => the whole sequence, when each place has one word */
    private array $plain = [];

    /**
     * @param  list<list<int>>  $numbers  dictionary numbers by place
     * @param  bool  $first  it must begin a text
     * @param  bool  $last  it must end a text
     */
    public function __construct(
        private readonly array $numbers,
        private readonly bool $first = false,
        private readonly bool $last = false,
    ) {
    }

    public function length(): int
    {
        return count($this->numbers);
    }

    public function distance(Stream $stream): ?int
    {
        return $this->positions($stream, 1) === [] ? null : 0;
    }

    public function needles(array $widths): array
    {
        $needles = [];
        // A single word stands in all that are asked about.
        foreach ($this->length() > 1 ? $widths : [] as $width) {
            $ways = [''];
            foreach ($this->written($width) as $words) {
                if (count($ways) * count($words) > self::MOST_NEEDLES) {
                    return [];
                }
                $longer = [];
                foreach ($ways as $way) {
                    foreach (array_keys($words) as $word) {
                        $longer[] = $way.$word;
                    }
                }
                $ways = $longer;
            }
            array_push($needles, ...$ways);
        }

        return $needles;
    }

    /** @return list<int> the words' positions (0 is the first word) at which the sequence begins, ascending */
    public function positions(Stream $stream, int $most = PHP_INT_MAX): array
    {
        $places = $this->places[$stream->width] ??= $this->written($stream->width);
        $plain = $this->plain[$stream->width] ??= self::plain($places);
        // The most that can be found by looking for all words of the first place is more than is asked for.
        $needles = $plain !== '' ? [$plain] : array_map(strval(...), array_keys($places[0] ?? []));
        $isChecked = $plain === '' || $this->first || $this->last;
        $starts = [];
        foreach ($needles as $needle) {
            foreach ($stream->positions($needle, $isChecked ? PHP_INT_MAX : $most) as $position) {
                if (! $isChecked || ($this->continues($stream, $position, $places) && $this->isInPlace($stream, $position))) {
                    $starts[] = $position;
                    if (count($starts) >= $most) {
                        return $starts;
                    }
                }
            }
        }
        sort($starts);

        return $starts;
    }

    /** @return list<array<string, true>> */
    private function written(int $width): array
    {
        return array_map(static function (array $words) use ($width): array {
            $written = array_filter(array_map(static fn (int $word): ?string => Stream::word($word, $width), $words), static fn (?string $word): bool => $word !== null);

            return array_fill_keys($written, true);
        }, $this->numbers);
    }

    /**
     * The sequence as it stands in the stream, or nothing when a place has other than one word.
     *
     * @param  list<array<string, true>>  $places
     */
    private static function plain(array $places): string
    {
        $plain = '';
        foreach ($places as $words) {
            if (count($words) !== 1) {
                return '';
            }
            $plain .= array_key_first($words);
        }

        return $plain;
    }

    /** @param  list<array<string, true>>  $places */
    private function continues(Stream $stream, int $position, array $places): bool
    {
        foreach ($places as $i => $words) {
            if ($i > 0 && ! isset($words[$stream->at($position + $i)])) {
                return false;
            }
        }

        return true;
    }

    private function isInPlace(Stream $stream, int $position): bool
    {
        $end = $position + $this->length();

        return (! $this->first || trim($stream->at($position - 1), "\0") === '')
            && (! $this->last || trim($stream->at($end), "\0") === '');
    }
}
