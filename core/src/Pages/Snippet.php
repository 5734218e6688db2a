<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/** A few words around the first place where a text has what was looked for. */
final readonly class Snippet
{
    private const BEFORE = 80;

    private const LENGTH = 220;

    private const STRETCH = 600;

    /** What stands so near a hit says whether it is the same elsewhere, in characters. */
    private const NEAR = 24;

    /**
     * @param  list<array{string, bool}>  $pieces  text, and whether it is marked
     * @param  int  $after  where the text goes on behind it, in bytes
     */
    private function __construct(public array $pieces, public int $after)
    {
    }

    /**
     * @param  int  $from  where to begin, in bytes: `after` of the one before
     */
    public static function of(string $text, HitFinder $finder, int $from = 0): ?self
    {
        $hit = self::firstHit($from === 0 ? $text : substr($text, $from), $finder);
        if ($hit === null) {
            return null;
        }
        $first = new Hit($from + $hit->offset, $hit->length);
        $start = max(0, $first->offset - self::BEFORE);
        $start = $start === 0 ? 0 : $start + strcspn($text, " \n", $start) + 1;
        $start = min($start, $first->offset);
        $end = min(strlen($text), max($start + self::LENGTH, $first->offset + $first->length));
        $end = $end === strlen($text) ? $end : max($first->offset + $first->length, (int) strrpos(substr($text, 0, $end), ' '));
        $window = mb_strcut($text, $start, $end - $start);
        $pieces = array_map(static fn (array $piece): array => [self::plain($piece[0]), $piece[1]], $finder->pieces($window));

        return new self($pieces, $end);
    }

    /** Cutting a whole page into words for one hit is slow, so a stretch around the likely place is tried first. */
    private static function firstHit(string $text, HitFinder $finder): ?Hit
    {
        $likely = $finder->likelyPlace($text);
        if ($likely !== null && $likely > self::BEFORE) {
            $start = $likely - self::BEFORE;
            $start += strcspn($text, " \n", $start);
            $hit = $finder->hits(substr($text, $start, self::STRETCH), 1)[0] ?? null;
            if ($hit !== null) {
                return new Hit($start + $hit->offset, $hit->length);
            }
        }

        return $finder->hits($text, 1)[0] ?? null;
    }

    public function text(): string
    {
        return trim(implode('', array_column($this->pieces, 0)));
    }

    /**
     * The hit with what is next to it, without numbers: in letterheads and forms it is the same in one document after the other,
     * and so tells nothing.
     */
    public function around(): string
    {
        $plain = static fn (string $text): string => (string) preg_replace('/\d+/', '#', mb_strtolower($text));
        $before = '';
        foreach ($this->pieces as $i => [$text, $isMarked]) {
            if ($isMarked) {
                $behind = implode('', array_column(array_slice($this->pieces, $i + 1), 0));

                return mb_substr($plain($before), -self::NEAR).$plain($text).mb_substr($plain($behind), 0, self::NEAR);
            }
            $before .= $text;
        }

        return $this->text();
    }

    private static function plain(string $text): string
    {
        return (string) preg_replace('/\s+/u', ' ', mb_scrub($text));
    }
}
