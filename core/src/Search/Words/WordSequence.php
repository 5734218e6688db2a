<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

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

    /**
     * The sequence as it stands in streams of each width, where that says all there is to it.
     *
     * @param  list<int>  $widths
     * @return array<int, string>|null null when a place has several words, or it matters where it stands
     */
    public function whole(array $widths): ?array
    {
        if ($this->first || $this->last) {
            return null;
        }
        $whole = [];
        foreach ($widths as $width) {
            $written = $this->written($width);
            if (in_array(count($written), [0, 1], true) || max(array_map(count(...), $written)) > 1) {
                return null;
            }
            $plain = self::plain($written);
            // A word that cannot stand in such streams is in none.
            if ($plain !== '') {
                $whole[$width] = $plain;
            }
        }

        return $whole;
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
        if ($this->first || $this->last) {
            return array_slice(
                array_values(array_filter($this->edges($stream), fn (int $position): bool => $this->stands($stream, $position, $places))),
                0,
                $most,
            );
        }
        $plain = $this->plain[$stream->width] ??= self::plain($places);
        if ($plain !== '') {
            return $stream->positions($plain, $most);
        }
        $starts = [];
        foreach ($this->beginnings($stream, $places[0] ?? []) as $position) {
            if ($this->stands($stream, $position, $places)) {
                $starts[] = $position;
                if (count($starts) >= $most) {
                    return $starts;
                }
            }
        }
        sort($starts);

        return $starts;
    }

    /** @return list<int> where the sequence must begin to stand at the beginning or the end of a text, or to be all of it */
    private function edges(Stream $stream): array
    {
        $texts = $stream->texts();
        $edges = [];
        foreach ($texts as $i => $start) {
            $end = isset($texts[$i + 1]) ? $texts[$i + 1] - 1 : $stream->length();
            $position = $this->first ? $start : $end - $this->length();
            if ($position >= $start && (! $this->last || $position + $this->length() === $end)) {
                $edges[] = $position;
            }
        }

        return $edges;
    }

    /**
     * Where one of the words of the first place stands.
     *
     * @param  array<string, true>  $words  as they stand in the stream, as keys
     * @return iterable<int>
     */
    private function beginnings(Stream $stream, array $words): iterable
    {
        if (count($words) > self::MOST_NEEDLES) {
            // So many are looked for in one go through the text.
            foreach (str_split($stream->words, max(1, $stream->width)) as $position => $word) {
                if (isset($words[$word])) {
                    yield $position;
                }
            }

            return;
        }
        foreach ($words as $word => $_) {
            yield from $stream->positions((string) $word);
        }
    }

    /** @return list<array<string, true>> */
    private function written(int $width): array
    {
        return array_map(static function (array $words) use ($width): array {
            $written = array_filter(
                array_map(static fn (int $word): ?string => Stream::word($word, $width), $words),
                static fn (?string $word): bool => $word !== null,
            );

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
    private function stands(Stream $stream, int $position, array $places): bool
    {
        foreach ($places as $i => $words) {
            if (! isset($words[$stream->at($position + $i)])) {
                return false;
            }
        }

        return true;
    }
}
