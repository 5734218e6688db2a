<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Index\Tokenizer;
use Closure;
use LogicException;

/** One word of a search term, folded; `*` stands for any letters and `?` for one when it is masked. */
final readonly class WordPattern
{
    /** A run of what words are made of, masks among it; an apostrophe before a letter does not end it. */
    private const PIECE = "/[\p{L}\p{N}\p{M}\x{AD}\x{200C}\x{200D}*?]++(?:['’](?=\p{L})[\p{L}\p{N}\p{M}\x{AD}\x{200C}\x{200D}*?]++)*+/u";

    /**
     * @param  (Closure(string, string): bool)|null  $accepts  what else fits, when it was widened
     * @param  string  $written  the word as it was asked for
     */
    private function __construct(
        public string $text,
        public bool $masked,
        private ?Closure $accepts = null,
        public string $written = '',
    ) {
    }

    /**
     * The words of a CQL term in order, cut where Tokenizer cuts.
     *
     * @param  bool  $masked  whether `*` and `?` mask; else they stand for nothing
     * @param  bool  $whole  whether the term is all there is, and not a part of a longer text
     * @return list<self>
     */
    public static function ofTerm(string $term, bool $masked = true, bool $whole = false): array
    {
        if (! $masked) {
            $term = str_replace(['*', '?'], ' ', $term);
        }
        $matched = preg_match_all(self::PIECE, (string) preg_replace('/\\\\./su', ' ', $term), $m);
        if ($matched === false) {
            throw new LogicException('A term could not be cut into words: '.preg_last_error_msg());
        }
        $patterns = [];
        foreach ($m[0] as $piece) {
            if (Tokenizer::isUnspaced($piece)) {
                // Any run of such signs is found wherever it stands, so that masks around it say nothing.
                array_push($patterns, ...self::ofPairs(Tokenizer::words(strtr($piece, '*?', '  ')), $whole));
            } elseif (strpbrk($piece, '*?') === false) {
                foreach (Tokenizer::words($piece) as $word) {
                    $patterns[] = new self($word, false, null, $piece);
                }
            } elseif (preg_match('/[\p{L}\p{N}]/u', $piece) === 1) {
                $patterns[] = new self(Tokenizer::fold($piece), true);
            }
        }

        return $patterns;
    }

    /**
     * Pairs without the single sign that closes a run of them in texts; a sign alone stands for all pairs it begins.
     *
     * @param  list<string>  $words
     * @return list<self>
     */
    private static function ofPairs(array $words, bool $whole): array
    {
        $patterns = [];
        foreach ($words as $i => $word) {
            if (! Tokenizer::isSingleSign($word)) {
                $patterns[] = new self($word, false);
            } elseif ($whole) {
                $patterns[] = new self($word, false);
            } elseif (! isset($words[$i - 1]) || ! str_ends_with($words[$i - 1], $word)) {
                $patterns[] = new self($word.'*', true);
            }
        }

        return $patterns;
    }

    /** The same word, which other words fit too. */
    public function widened(Expansion $widening): self
    {
        return $this->masked || ! $widening->reaches() ? $this : new self($this->text, false, $widening->accepts($this->text, $this->written), $this->written);
    }

    public function isWidened(): bool
    {
        return $this->accepts !== null;
    }

    /** Whether so little of the word is written that nearly every word fits. A rule on the mask alone: what is indexed must not show. */
    public function saysTooLittle(): bool
    {
        return $this->masked &&
            ! Tokenizer::isUnspaced($this->text) &&
            mb_strlen(str_replace(['*', '?'], '', $this->text)) < 2 &&
            str_contains($this->text, '*');
    }

    /** What every word that fits begins with. */
    public function prefix(): string
    {
        return $this->accepts !== null ? '' : substr($this->text, 0, strcspn($this->text, '*?'));
    }

    public function expression(): string
    {
        return '/^'.str_replace(['\*', '\?'], ['.*', '.'], preg_quote($this->text, '/')).'$/su';
    }

    /**
     * Those of some words that fit a mask.
     *
     * @param  array<int, string>  $words
     * @return array<int, string>
     */
    public function among(array $words): array
    {
        return array_intersect_key($words, preg_grep($this->expression(), $words) ?: []);
    }

    /** @param  string  $written  the word as it is written, where that is known */
    public function fits(string $word, string $written = ''): bool
    {
        return match (true) {
            $this->masked => preg_match($this->expression(), $word) === 1,
            $this->accepts !== null => ($this->accepts)($word, $written),
            default => $word === $this->text,
        };
    }
}
