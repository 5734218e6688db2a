<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/** A few words around the first place where a text has what was looked for. */
final readonly class Snippet
{
    private const BEFORE = 80;

    private const LENGTH = 220;

    /** @param list<array{string, bool}> $pieces text, and whether it is marked */
    private function __construct(public array $pieces) {}

    public static function of(string $text, HitFinder $finder): ?self
    {
        $first = $finder->hits($text, 1)[0] ?? null;
        if ($first === null) {
            return null;
        }
        $start = max(0, $first->offset - self::BEFORE);
        $start = $start === 0 ? 0 : $start + strcspn($text, " \n", $start) + 1;
        $start = min($start, $first->offset);
        $end = min(strlen($text), max($start + self::LENGTH, $first->offset + $first->length));
        $end = $end === strlen($text) ? $end : max($first->offset + $first->length, (int) strrpos(substr($text, 0, $end), ' '));
        $window = mb_strcut($text, $start, $end - $start);
        $pieces = array_map(static fn (array $piece): array => [self::plain($piece[0]), $piece[1]], $finder->pieces($window));

        return new self($pieces);
    }

    public function text(): string
    {
        return trim(implode('', array_column($this->pieces, 0)));
    }

    private static function plain(string $text): string
    {
        return (string) preg_replace('/\s+/u', ' ', mb_scrub($text));
    }
}
