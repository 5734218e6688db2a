<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** Finds what somebody probably meant. */
final class Nearest
{
    /**
     * The candidate with the smallest edit distance to `$text`, when that distance is small for its length.
     *
     * @param  iterable<string>  $candidates
     */
    public static function of(string $text, iterable $candidates): ?string
    {
        $text = mb_strtolower($text);
        $best = null;
        $least = max(2, intdiv(mb_strlen($text), 3)) + 1;
        foreach ($candidates as $candidate) {
            $folded = mb_strtolower($candidate);
            $distance = $text !== '' && str_starts_with($folded, $text) ? 1 : levenshtein($text, $folded);
            if ($distance < $least) {
                [$best, $least] = [$candidate, $distance];
            }
        }

        return $best;
    }
}
