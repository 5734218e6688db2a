<?php

declare(strict_types=1);

namespace Brenvic\Core\Versions;

use RuntimeException;

/**
 * A place in a text, told so that it is found again in another version: the words themselves and what stands around them,
 * as the text quote selector of the W3C Web Annotation Data Model (2017) has it. White space counts as one space.
 */
final readonly class Quote
{
    private const AROUND = 48;

    /** Bytes of the surroundings that have to be alike, when there are so many. */
    private const LEAST = 8;

    /** Words of so many bytes that stand once are found by themselves. */
    private const TELLING = 30;

    public function __construct(public string $exact, public string $prefix = '', public string $suffix = '')
    {
    }

    /** @param  int  $offset  in bytes, as is `$length` */
    public static function in(string $text, int $offset, int $length): self
    {
        $before = mb_scrub(substr($text, max(0, $offset - self::AROUND), min($offset, self::AROUND)));
        $after = mb_scrub(substr($text, $offset + $length, self::AROUND));

        return new self(self::plain(substr($text, $offset, $length)), self::plain($before), self::plain($after));
    }

    /**
     * Where the words stand in a text: of several places the one whose surroundings are most alike; none when that is
     * not sure.
     *
     * @return array{int, int}|null offset and length in bytes
     */
    public function find(string $text): ?array
    {
        $place = $this->findAmong([$text], 0);

        return $place === null ? null : [$place[1], $place[2]];
    }

    /**
     * The same in the pages of a document. Surroundings decide, wherever they are; where they are as alike on several
     * pages, the page the words stood on. A place with too little of the surroundings, or one of several alike, is none:
     * a person has to look.
     *
     * @param  array<int, string>  $pages  texts by page
     * @return array{int, int, int}|null page, and offset and length in bytes
     */
    public function findAmong(array $pages, int $first): ?array
    {
        if ($this->exact === '') {
            return null;
        }
        $places = [];
        foreach ($pages as $number => $text) {
            foreach ($this->places($text) as [$offset, $length, $score]) {
                $places[$score][] = [$number, $offset, $length];
            }
        }
        if ($places === []) {
            return null;
        }
        $best = max(array_keys($places));
        $count = array_sum(array_map(count(...), $places));
        $around = strlen($this->prefix) + strlen($this->suffix);
        if ($best < min($around, max(self::LEAST, intdiv($around, 4))) && ! ($count === 1 && strlen($this->exact) >= self::TELLING)) {
            return null;
        }
        $there = $places[$best];
        if (count($there) > 1) {
            $there = array_values(array_filter($there, static fn (array $place): bool => $place[0] === $first));
        }

        return count($there) === 1 ? $there[0] : null;
    }

    /** @return list<array{int, int, int}> offset, length, and how many bytes around it are alike */
    private function places(string $text): array
    {
        $pattern =
            '/'.implode('\s+', array_map(static fn (string $word): string => preg_quote($word, '/'), explode(' ', $this->exact))).'/u';
        if (preg_match_all($pattern, $text, $matches, PREG_OFFSET_CAPTURE) === false) {
            throw new RuntimeException('A quoted place could not be looked for: '.preg_last_error_msg());
        }
        $places = [];
        foreach ($matches[0] as [$found, $offset]) {
            $there = self::in($text, $offset, strlen($found));
            $places[] = [
                $offset,
                strlen($found),
                self::alike(strrev($this->prefix), strrev($there->prefix)) + self::alike($this->suffix, $there->suffix),
            ];
        }

        return $places;
    }

    /** How many bytes two texts begin with alike. */
    private static function alike(string $a, string $b): int
    {
        return strspn($a ^ $b, "\0");
    }

    private static function plain(string $text): string
    {
        return trim((string) preg_replace('/\s+/u', ' ', mb_scrub($text)));
    }
}
