<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\Tokenizer;

/** One word of a search term, folded; `*` stands for any letters and `?` for one when it is masked. */
final readonly class WordPattern
{
    private function __construct(
        public string $text,
        public bool $masked,
        private ?Widening $widening = null,
    ) {
    }

    /**
     * The words of a CQL term in order, cut where Tokenizer cuts.
     *
     * @return list<self>
     */
    public static function ofTerm(string $term): array
    {
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
        return $this->masked || ! $widening->reaches() ? $this : new self($this->text, false, $widening);
    }

    /** What every word that fits begins with. */
    public function prefix(): string
    {
        return $this->widening !== null ? '' : substr($this->text, 0, strcspn($this->text, '*?'));
    }

    public function expression(): string
    {
        return '/^'.str_replace(['\*', '\?'], ['.*', '.'], preg_quote($this->text, '/')).'$/su';
    }

    public function fits(string $word): bool
    {
        return match (true) {
            $this->masked => preg_match($this->expression(), $word) === 1,
            $this->widening !== null => $this->widening->accepts($this->text, $word),
            default => $word === $this->text,
        };
    }
}
