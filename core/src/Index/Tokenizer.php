<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use Normalizer;

/**
 * Cuts text into words and folds them, so that what is searched and what is written meet.
 *
 * A word is a run of letters, digits and combining marks. Everything else separates: `LK-0417-T` is three words in a
 * row and so is found as a phrase. An apostrophe inside a word does not separate; it is dropped, and so is a final
 * `'s` (`keeper's` is `keeper`, `o'brien` is `obrien`). Words are folded by NFKD without marks and Unicode case
 * folding, and cut at 64 bytes.
 */
final class Tokenizer
{
    private const MAX_BYTES = 64;

    private const WORD = "/[\p{L}\p{N}\p{M}]+(?:['’][\p{L}\p{M}]+)*/u";

    private const ASCII_WORD = "/[a-z0-9]+(?:'[a-z]+)*/";

    /** @return list<string> folded words in order */
    public static function words(string $text): array
    {
        if (preg_match('/[\x80-\xFF]/', $text) !== 1) {
            preg_match_all(self::ASCII_WORD, strtolower($text), $m);
            $words = $m[0];
            if (str_contains($text, "'")) {
                $words = array_map(self::withoutApostrophe(...), $words);
            }
        } else {
            preg_match_all(self::WORD, mb_scrub($text), $m);
            $words = array_map(self::fold(...), $m[0]);
        }
        foreach ($words as $i => $word) {
            if (strlen($word) > self::MAX_BYTES) {
                $words[$i] = mb_strcut($word, 0, self::MAX_BYTES);
            }
        }

        return $words;
    }

    /**
     * The same words with where they stand.
     *
     * @return list<array{string, int, int}> folded word, offset in bytes, length in bytes
     */
    public static function located(string $text): array
    {
        $plain = preg_match('/[\x80-\xFF]/', $text) !== 1;
        preg_match_all($plain ? self::ASCII_WORD : self::WORD, $plain ? strtolower($text) : mb_scrub($text), $m, PREG_OFFSET_CAPTURE);
        $located = [];
        foreach ($m[0] as [$word, $offset]) {
            $length = strlen($word);
            $folded = $plain ? self::withoutApostrophe($word) : self::fold($word);
            $located[] = [$length > self::MAX_BYTES ? mb_strcut($folded, 0, self::MAX_BYTES) : $folded, $offset, $length];
        }

        return $located;
    }

    /** Case and accents folded, for comparing whole values and single words. */
    public static function fold(string $word): string
    {
        if (preg_match('/[\x80-\xFF]/', $word) !== 1) {
            return self::withoutApostrophe(strtolower($word));
        }
        $decomposed = Normalizer::normalize(mb_scrub($word), Normalizer::FORM_KD);
        $plain = (string) preg_replace('/\p{M}+/u', '', is_string($decomposed) ? $decomposed : $word);

        return self::withoutApostrophe(str_replace('’', "'", (string) mb_convert_case($plain, MB_CASE_FOLD, 'UTF-8')));
    }

    private static function withoutApostrophe(string $word): string
    {
        if (! str_contains($word, "'")) {
            return $word;
        }

        return str_replace("'", '', str_ends_with($word, "'s") ? substr($word, 0, -2) : $word);
    }
}
