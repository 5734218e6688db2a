<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * English stems after M. F. Porter, “An algorithm for suffix stripping”, Program 14 (1980). A stem is no word; it only
 * says which words belong together. Words with digits or letters beyond a–z are their own stems.
 */
final class Stemmer
{
    private const VOWEL = '(?:[aeiou]|(?<![aeiou])y)';

    private const CONSONANT = '(?:[bcdfghjklmnpqrstvwxz]|(?<=[aeiou])y|^y)';

    private const STEP_2 = [
        'ational' => 'ate',
        'tional' => 'tion',
        'enci' => 'ence',
        'anci' => 'ance',
        'izer' => 'ize',
        'abli' => 'able',
        'alli' => 'al',
        'entli' => 'ent',
        'eli' => 'e',
        'ousli' => 'ous',
        'ization' => 'ize',
        'ation' => 'ate',
        'ator' => 'ate',
        'alism' => 'al',
        'iveness' => 'ive',
        'fulness' => 'ful',
        'ousness' => 'ous',
        'aliti' => 'al',
        'iviti' => 'ive',
        'biliti' => 'ble',
    ];

    private const STEP_3 = ['icate' => 'ic', 'ative' => '', 'alize' => 'al', 'iciti' => 'ic', 'ical' => 'ic', 'ful' => '', 'ness' => ''];

    private const STEP_4 = [
        'al',
        'ance',
        'ence',
        'er',
        'ic',
        'able',
        'ible',
        'ant',
        'ement',
        'ment',
        'ent',
        'ion',
        'ou',
        'ism',
        'ate',
        'iti',
        'ous',
        'ive',
        'ize',
    ];

    public static function stem(string $word): string
    {
        if (strlen($word) < 3 || preg_match('/^[a-z]+$/', $word) !== 1) {
            return $word;
        }
        $word = self::plural($word);
        $word = self::pastAndParticiple($word);
        if (preg_match('/'.self::VOWEL.'.*y$/', $word) === 1) {
            $word = substr($word, 0, -1).'i';
        }
        $word = self::replaced($word, self::STEP_2);
        $word = self::replaced($word, self::STEP_3);
        $word = self::stripped($word);

        return self::tidied($word);
    }

    private static function plural(string $word): string
    {
        return match (true) {
            str_ends_with($word, 'sses'), str_ends_with($word, 'ies') => substr($word, 0, -2),
            str_ends_with($word, 's') && ! str_ends_with($word, 'ss') => substr($word, 0, -1),
            default => $word,
        };
    }

    private static function pastAndParticiple(string $word): string
    {
        if (str_ends_with($word, 'eed')) {
            return self::measure(substr($word, 0, -3)) > 0 ? substr($word, 0, -1) : $word;
        }
        foreach (['ed', 'ing'] as $ending) {
            $rest = substr($word, 0, -strlen($ending));
            if (str_ends_with($word, $ending) && preg_match('/'.self::VOWEL.'/', $rest) === 1) {
                return match (true) {
                    preg_match('/(?:at|bl|iz)$/', $rest) === 1 => $rest.'e',
                    preg_match('/([^aeioulsz])\1$/', $rest) === 1 => substr($rest, 0, -1),
                    self::measure($rest) === 1 && self::endsShort($rest) => $rest.'e',
                    default => $rest,
                };
            }
        }

        return $word;
    }

    /** @param  array<string, string>  $endings */
    private static function replaced(string $word, array $endings): string
    {
        foreach ($endings as $ending => $instead) {
            if (str_ends_with($word, $ending)) {
                $rest = substr($word, 0, -strlen($ending));

                return self::measure($rest) > 0 ? $rest.$instead : $word;
            }
        }

        return $word;
    }

    private static function stripped(string $word): string
    {
        $longest = '';
        foreach (self::STEP_4 as $ending) {
            if (strlen($ending) > strlen($longest) && str_ends_with($word, $ending)) {
                $longest = $ending;
            }
        }
        $rest = $longest === '' ? $word : substr($word, 0, -strlen($longest));
        $fits = self::measure($rest) > 1 && ($longest !== 'ion' || preg_match('/[st]$/', $rest) === 1);

        return $longest !== '' && $fits ? $rest : $word;
    }

    private static function tidied(string $word): string
    {
        if (str_ends_with($word, 'e')) {
            $rest = substr($word, 0, -1);
            $measure = self::measure($rest);
            if ($measure > 1 || ($measure === 1 && ! self::endsShort($rest))) {
                $word = $rest;
            }
        }

        return str_ends_with($word, 'll') && self::measure($word) > 1 ? substr($word, 0, -1) : $word;
    }

    /** How often a vowel is followed by a consonant. */
    private static function measure(string $word): int
    {
        return (int) preg_match_all('/'.self::VOWEL.'+'.self::CONSONANT.'+/', $word);
    }

    /** Consonant, vowel, consonant at the end, the last not w, x or y. */
    private static function endsShort(string $word): bool
    {
        return preg_match('/'.self::CONSONANT.self::VOWEL.'[bcdfghjklmnpqrstvz]$/', $word) === 1;
    }
}
