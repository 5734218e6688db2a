<?php

declare(strict_types=1);

namespace Brenvic\Core\Versions;

/**
 * A place in a text, told so that it is found again in another version: the words themselves and what stands around them,
 * as the text quote selector of the W3C Web Annotation Data Model (2017) has it. White space counts as one space.
 */
final readonly class Quote
{
    private const AROUND = 48;

    public function __construct(
        public string $exact,
        public string $prefix = '',
        public string $suffix = '',
    ) {
    }

    /** @param  int  $offset  in bytes, as is `$length` */
    public static function in(string $text, int $offset, int $length): self
    {
        $before = mb_scrub(substr($text, max(0, $offset - self::AROUND), min($offset, self::AROUND)));
        $after = mb_scrub(substr($text, $offset + $length, self::AROUND));

        return new self(self::plain(substr($text, $offset, $length)), self::plain($before), self::plain($after));
    }

    /**
     * Where the words stand in a text: of several places the one whose surroundings are most alike; none when nothing
     * around any of several is.
     *
     * @return array{int, int}|null offset and length in bytes
     */
    public function find(string $text): ?array
    {
        if ($this->exact === '') {
            return null;
        }
        $pattern = '/'.implode('\s+', array_map(static fn (string $word): string => preg_quote($word, '/'), explode(' ', $this->exact))).'/u';
        if (! preg_match_all($pattern, $text, $matches, PREG_OFFSET_CAPTURE)) {
            return null;
        }
        $best = null;
        $bestScore = -1;
        $isShared = false;
        foreach ($matches[0] as [$found, $offset]) {
            $there = self::in($text, $offset, strlen($found));
            $score = self::alike(strrev($this->prefix), strrev($there->prefix)) + self::alike($this->suffix, $there->suffix);
            $isShared = $score === $bestScore || ($isShared && $score < $bestScore);
            if ($score > $bestScore) {
                [$best, $bestScore] = [[$offset, strlen($found)], $score];
            }
        }

        return $isShared ? null : $best;
    }

    /**
     * The same in the pages of a document: on the page the words stood on first, then on the others.
     *
     * @param  array<int, string>  $pages  texts by page
     * @return array{int, int, int}|null page, and offset and length in bytes
     */
    public function findAmong(array $pages, int $first): ?array
    {
        foreach ([$first => $pages[$first] ?? ''] + $pages as $number => $text) {
            $place = $this->find($text);
            if ($place !== null) {
                return [$number, ...$place];
            }
        }

        return null;
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
