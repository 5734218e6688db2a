<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Snowball;
use Brenvic\Core\Index\Sound;
use Brenvic\Core\Index\Stemmer;
use Brenvic\Core\Query\Modifier;
use Closure;

/**
 * How far a search word reaches beyond itself: to words with the same stem (of English anywhere, of other languages in texts that
 * are written in them), words that sound alike (metaphone, as English has it), words
 * up to so many slips of the pen away (a letter added, left out, mistaken, or two swapped). Words named by
 * `/without="…"` are left out.
 */
final readonly class Expansion
{
    private const MOST_SLIPS = 3;

    /** Letters at the beginning that no stem takes off or changes. */
    private const KEPT_BY_STEMS = 2;

    /** @param  list<string>  $without */
    private function __construct(
        public bool $stem,
        public bool $sound,
        public int $slips,
        public array $without,
    ) {
    }

    /**
     * @param  list<Modifier>  $modifiers
     *
     * @throws SearchError
     */
    public static function ofModifiers(array $modifiers): self
    {
        [$stem, $sound, $slips, $without] = [false, false, 0, []];
        foreach ($modifiers as $modifier) {
            $value = $modifier->value ?? '';
            switch ($modifier->name) {
                case 'stem':
                    $stem = true;
                    break;
                case 'phonetic':
                    $sound = true;
                    break;
                case 'fuzzy':
                    if ($value !== '' && (! ctype_digit($value) || (int) $value < 1 || (int) $value > self::MOST_SLIPS)) {
                        throw new SearchError("fuzzy takes a level from 1 to 3, not “{$value}”.", fault: SearchFault::Modifier);
                    }
                    $slips = $value === '' ? 1 : (int) $value;
                    break;
                case 'without':
                    $without = preg_split('/\s+/', mb_strtolower($value), -1, PREG_SPLIT_NO_EMPTY) ?: [];
                    break;
            }
        }

        return new self($stem, $sound, $slips, $without);
    }

    /** The level at which a word that is not indexed is guessed: one slip for short words, two for longer. */
    public static function guess(string $word): self
    {
        return new self(true, false, strlen($word) > 5 ? 2 : 1, []);
    }

    public function reaches(): bool
    {
        return $this->stem || $this->sound || $this->slips > 0;
    }

    /**
     * The indexed words that `$word` reaches, those left out too.
     *
     * @param  string  $written  the word as it was asked for, with its accents
     * @return list<string>
     */
    public function variants(string $word, IndexReader $reader, string $written = ''): array
    {
        $found = [$word];
        if ($this->stem) {
            array_push($found, ...$reader->wordsOfStem(Stemmer::stem($word)));
            foreach (self::stems($word, $written) as $language => $stems) {
                foreach ($stems as $stem) {
                    array_push($found, ...$reader->wordsOfStemIn($language, $stem));
                }
            }
        }
        if ($this->sound && Sound::of($word) !== '') {
            array_push($found, ...$reader->wordsOfSound(Sound::of($word)));
        }
        $misspelt = $this->misspelt($word);
        if ($misspelt !== null) {
            array_push($found, ...array_filter($reader->wordsBeginningWith(''), $misspelt));
        }

        return array_map(strval(...), array_keys(array_flip($found)));
    }

    /**
     * Whether `$word` reaches a word that is not left out. Texts repeat their words, so answers are kept.
     *
     * @param  string  $written  the word as it was asked for, with its accents
     * @return Closure(string, string): bool  of a word, and how it is written
     */
    public function accepts(string $word, string $written = ''): Closure
    {
        $known = array_fill_keys($this->without, false);
        $stem = $this->stem ? Stemmer::stem($word) : null;
        $stems = $this->stem ? self::stems($word, $written) : [];
        $begin = mb_substr($word, 0, self::KEPT_BY_STEMS);
        $sound = $this->sound && Sound::of($word) !== '' ? Sound::of($word) : null;
        $misspelt = $this->misspelt($word);

        return static function (string $other, string $written = '') use ($word, $stem, $stems, $begin, $sound, $misspelt, &$known): bool {
            return $known[$other] ?? ($known["{$other} {$written}"] ??= $other === $word
                || ($stem !== null && Stemmer::stem($other) === $stem)
                || ($stems !== [] && str_starts_with($other, $begin) && self::meet($stems, self::stems($other, $written)))
                || ($sound !== null && Sound::of($other) === $sound)
                || ($misspelt !== null && $misspelt($other)));
        };
    }

    /** @return array<string, list<string>> the stems of a word by language, as it is written and without its accents */
    private static function stems(string $word, string $written): array
    {
        $stems = array_map(static fn (string $stem): array => [$stem], Snowball::all($word));
        foreach ($written === '' || $written === $word ? [] : Snowball::all($written) as $language => $stem) {
            if (! in_array($stem, $stems[$language] ?? [], true)) {
                $stems[$language][] = $stem;
            }
        }

        return $stems;
    }

    /**
     * @param  array<string, list<string>>  $some
     * @param  array<string, list<string>>  $others
     */
    private static function meet(array $some, array $others): bool
    {
        foreach ($others as $language => $stems) {
            if (array_intersect($stems, $some[$language] ?? []) !== []) {
                return true;
            }
        }

        return false;
    }

    /** @return (Closure(string): bool)|null null when no slips are allowed */
    private function misspelt(string $word): ?Closure
    {
        // A third of a short word changed would be another word.
        $slips = min($this->slips, intdiv(strlen($word), 3));
        if ($slips === 0) {
            return null;
        }
        $length = strlen($word);
        $swapped = [];
        for ($i = 1; $i < $length; $i++) {
            $swapped[] = substr($word, 0, $i - 1).$word[$i].$word[$i - 1].substr($word, $i + 1);
        }

        return static function (string $other) use ($word, $length, $slips, $swapped): bool {
            if (abs(strlen($other) - $length) > $slips) {
                return false;
            }
            $distance = levenshtein($word, $other);
            if ($distance !== $slips + 1) {
                return $distance <= $slips;
            }
            foreach ($swapped as $swap) {
                if (levenshtein($swap, $other) < $slips) {
                    return true;
                }
            }

            return false;
        };
    }
}
