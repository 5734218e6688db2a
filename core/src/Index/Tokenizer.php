<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use LogicException;
use Normalizer;

/**
 * Cuts text into words and folds them, so that what is searched and what is written meet.
 *
 * A word is a run of letters, digits and combining marks. Everything else separates: `LK-0417-T` is three words in a
 * row and so is found as a phrase. An apostrophe inside a word does not separate; it is dropped, and so is a final
 * `'s` (`keeper's` is `keeper`, `o'brien` is `obrien`). Soft hyphens and joiners inside a word are dropped too. A word
 * of more than 64 bytes goes on in the next one, so that nothing of it is lost.
 *
 * Words are folded by NFKD, without diacritics, recomposed (NFC), and by Unicode case folding. Marks without which a
 * letter is another one stay: vowel signs of Indic scripts, the voiced sound marks of kana.
 *
 * Scripts written without blanks (Han, kana, Thai, Lao, Khmer, Myanmar) are cut into overlapping pairs: 運河管理 is 運河,
 * 河管, 管理 and the closing 理, so that any run of them is found as a phrase, and a single sign as the beginning of a pair.
 */
final class Tokenizer
{
    private const MAX_BYTES = 64;

    /** Han, kana, Thai, Lao, Khmer, Myanmar, and the sign for a long kana. */
    private const UNSPACED = '\p{Han}\p{Hiragana}\p{Katakana}\p{Thai}\p{Lao}\p{Khmer}\p{Myanmar}\x{30FC}\x{FF70}';

    /** Soft hyphen and joiners, which say how a word is set. */
    private const UNSEEN = '\x{AD}\x{200C}\x{200D}';

    private const WORD =
        '/(?:[\p{L}\p{N}\p{M}]++(?:['.
        self::UNSEEN.
        ']++(?=[\p{L}\p{N}\p{M}]))?+)++(?:[\'’](?:[\p{L}\p{M}]++(?:['.
        self::UNSEEN.
        ']++(?=[\p{L}\p{M}]))?+)++)*+/u';

    private const ASCII_WORD = "/[a-z0-9]++(?:'[a-z]++)*+/";

    /** A letter of an unspaced script with its marks, or a stretch of others. */
    private const UNITS =
        '/[\p{L}\p{N}](?<=['.self::UNSPACED.'])[\p{M}\x{FF9E}\x{FF9F}]*+|(?:(?!['.self::UNSPACED.'])[^\s])++|./su';

    private const IS_UNSPACED = '/['.self::UNSPACED.']/u';

    /** Accents, points and signs of recitation: Latin, Greek, Cyrillic, Hebrew, Arabic, Syriac, symbols, variants of a sign. */
    private const DIACRITICS =
        '/[\x{0300}-\x{036F}\x{0483}-\x{0489}\x{0591}-\x{05BD}\x{05BF}\x{05C1}\x{05C2}\x{05C4}\x{05C5}\x{05C7}'.
        '\x{0610}-\x{061A}\x{064B}-\x{065F}\x{0670}\x{06D6}-\x{06DC}\x{06DF}-\x{06E4}\x{06E7}\x{06E8}\x{06EA}-\x{06ED}'.
        '\x{0711}\x{0730}-\x{074A}\x{1AB0}-\x{1AFF}\x{1DC0}-\x{1DFF}\x{20D0}-\x{20FF}\x{FE00}-\x{FE0F}\x{FE20}-\x{FE2F}\x{E0100}-\x{E01EF}'.
        self::UNSEEN.
        ']++/u';

    /** Vowels of Thai and Lao that NFKD takes apart into a mark and a letter, which would be another sign. */
    private const WHOLE = ["\u{0E4D}\u{0E32}" => "\u{0E33}", "\u{0ECD}\u{0EB2}" => "\u{0EB3}"];

    /** @return list<string> folded words in order */
    public static function words(string $text): array
    {
        if (preg_match('/[\x80-\xFF]/', $text) !== 1) {
            $words = self::matches(self::ASCII_WORD, strtolower($text));
            if (str_contains($text, "'")) {
                $words = array_map(self::withoutApostrophe(...), $words);
            }
            if ($words !== [] && max(array_map(strlen(...), $words)) <= self::MAX_BYTES) {
                return $words;
            }
        } else {
            $words = [];
            foreach (self::matches(self::WORD, mb_scrub($text)) as $word) {
                if (preg_match(self::IS_UNSPACED, $word) === 1) {
                    array_push($words, ...array_column(self::pairs($word), 0));
                } else {
                    $words[] = self::fold($word);
                }
            }
        }
        $whole = [];
        foreach ($words as $word) {
            if (strlen($word) <= self::MAX_BYTES) {
                $whole[] = $word;
            } else {
                array_push($whole, ...self::cut($word));
            }
        }

        return $whole;
    }

    /**
     * The same words with where they stand.
     *
     * @return list<array{string, int, int}> folded word, offset in bytes, length in bytes; pairs overlap
     */
    public static function located(string $text): array
    {
        $plain = preg_match('/[\x80-\xFF]/', $text) !== 1;
        $text = $plain ? strtolower($text) : mb_scrub($text);
        if (preg_match_all($plain ? self::ASCII_WORD : self::WORD, $text, $m, PREG_OFFSET_CAPTURE) === false) {
            throw self::failed();
        }
        $located = [];
        foreach ($m[0] as [$word, $offset]) {
            if (! $plain && preg_match(self::IS_UNSPACED, $word) === 1) {
                foreach (self::pairs($word) as [$pair, $at, $length]) {
                    $located[] = [$pair, $offset + $at, $length];
                }

                continue;
            }
            $folded = $plain ? self::withoutApostrophe($word) : self::fold($word);
            // All pieces of a long word stand where the word stands.
            foreach (strlen($folded) <= self::MAX_BYTES ? [$folded] : self::cut($folded) as $piece) {
                $located[] = [$piece, $offset, strlen($word)];
            }
        }

        return $located;
    }

    /**
     * Each word that a text has, as it is written, with its folded form; without those of scripts that have no blanks.
     *
     * @return array<array-key, string>
     */
    public static function written(string $text): array
    {
        $written = [];
        foreach (array_count_values(self::matches(self::WORD, mb_scrub($text))) as $word => $_) {
            $word = (string) $word;
            $folded = self::fold($word);
            if (strlen($folded) <= self::MAX_BYTES && ! self::isUnspaced($word)) {
                $written[$word] = $folded;
            }
        }

        return $written;
    }

    /** Whether a folded word is one sign of a script without blanks, which in texts begins pairs. */
    public static function isSingleSign(string $word): bool
    {
        return preg_match('/^['.self::UNSPACED.']\p{M}*$/Du', $word) === 1;
    }

    /** Whether a text has signs of a script without blanks. */
    public static function isUnspaced(string $text): bool
    {
        return preg_match(self::IS_UNSPACED, $text) === 1;
    }

    /** Case and accents folded, for comparing whole values and single words. */
    public static function fold(string $word): string
    {
        if (preg_match('/[\x80-\xFF]/', $word) !== 1) {
            return self::withoutApostrophe(strtolower($word));
        }
        $decomposed = Normalizer::normalize(mb_scrub($word), Normalizer::FORM_KD);
        $plain = preg_replace(self::DIACRITICS, '', is_string($decomposed) ? $decomposed : $word) ?? throw self::failed();
        $plain = strtr($plain, self::WHOLE);
        if (preg_match('/[\x80-\xFF]/', $plain) === 1) {
            $composed = Normalizer::normalize(mb_convert_case($plain, MB_CASE_FOLD, 'UTF-8'), Normalizer::FORM_C);
            $plain = is_string($composed) ? $composed : $plain;
        } else {
            $plain = strtolower($plain);
        }

        return self::withoutApostrophe(str_replace('’', "'", $plain));
    }

    /**
     * The pairs of a word with signs of scripts without blanks, and what else is in it.
     *
     * @return list<array{string, int, int}> folded, offset and length within the word
     */
    private static function pairs(string $word): array
    {
        if (preg_match_all(self::UNITS, $word, $m, PREG_OFFSET_CAPTURE) === false) {
            throw self::failed();
        }
        $pairs = [];
        foreach ($m[0] as $i => [$unit, $offset]) {
            $next = $m[0][$i + 1][0] ?? '';
            $isPair = self::isUnspaced($unit) && self::isUnspaced($next);
            $folded = self::fold($isPair ? $unit.$next : $unit);
            if ($folded !== '') {
                $pairs[] = [$folded, $offset, strlen($unit) + ($isPair ? strlen($next) : 0)];
            }
        }

        return $pairs;
    }

    /** @return list<string> pieces of at most so many bytes, whole signs each */
    private static function cut(string $word): array
    {
        $pieces = [];
        for ($at = 0, $end = strlen($word); $at < $end; $at += strlen($piece)) {
            // A little more than is taken: mb_strcut would look through all of it.
            $pieces[] = $piece = mb_strcut(substr($word, $at, self::MAX_BYTES + 4), 0, self::MAX_BYTES);
        }

        return $pieces;
    }

    /** @return list<string> */
    private static function matches(string $pattern, string $text): array
    {
        return preg_match_all($pattern, $text, $m) === false ? throw self::failed() : $m[0];
    }

    private static function failed(): LogicException
    {
        return new LogicException('A text could not be cut into words: '.preg_last_error_msg());
    }

    private static function withoutApostrophe(string $word): string
    {
        if (! str_contains($word, "'")) {
            return $word;
        }

        return str_replace("'", '', str_ends_with($word, "'s") ? substr($word, 0, -2) : $word);
    }
}
