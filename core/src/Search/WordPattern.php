<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\Tokenizer;
use Closure;

/** One word of a search term, folded; `*` stands for any letters and `?` for one when it is masked. */
final readonly class WordPattern
{
    /** @param  (Closure(string): bool)|null  $accepts what else fits, when it was widened */
    private function __construct(
        public string $text,
        public bool $masked,
        private ?Closure $accepts = null,
    ) {
    }

    /**
     * The words of a CQL term in order, cut where Tokenizer cuts.
     *
     * @param  bool  $masked  whether `*` and `?` mask; else they stand for nothing
     * @return list<self>
     */
    public static function ofTerm(string $term, bool $masked = true): array
    {
        if (! $masked) {
            $term = str_replace(['*', '?'], ' ', $term);
        }
        preg_match_all("/(?:[\p{L}\p{N}\p{M}*?]|(?<=[\p{L}\p{N}\p{M}*?])['’](?=\p{L}))+/u", (string) preg_replace('/\\\\./su', ' ', $term), $m);
        $patterns = [];
        foreach ($m[0] as $piece) {
            if (strpbrk($piece, '*?') === false) {
                foreach (Tokenizer::words($piece) as $word) {
                    $patterns[] = new self($word, false);
                }
            } elseif (preg_match('/[\p{L}\p{N}]/u', $piece) === 1) {
                $patterns[] = new self(Tokenizer::fold($piece), true);
            }
        }

        return $patterns;
    }

    /** The same word, which other words fit too. */
    public function widened(Widening $widening): self
    {
        return $this->masked || ! $widening->reaches() ? $this : new self($this->text, false, $widening->accepts($this->text));
    }

    /** Whether so little of the word is written that nearly every word fits. A rule on the mask alone: what is indexed must not show. */
    public function saysTooLittle(): bool
    {
        return $this->masked && mb_strlen(str_replace(['*', '?'], '', $this->text)) < 2 && str_contains($this->text, '*');
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

    public function fits(string $word): bool
    {
        return match (true) {
            $this->masked => preg_match($this->expression(), $word) === 1,
            $this->accepts !== null => ($this->accepts)($word),
            default => $word === $this->text,
        };
    }
}
