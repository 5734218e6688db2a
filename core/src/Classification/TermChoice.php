<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\Tokenizer;

/** Terms of a large vocabulary to choose from, a piece at a time: a level of the tree, or what fits what was typed. */
final readonly class TermChoice
{
    /** @var array<string, list<string>> code => codes of what is directly below it, in the vocabulary's order; the top under '' */
    private array $levels;

    /**
     * @param  string|null  $from  only this term and what is below it
     * @param  list<string>|null  $beside  values of the field on which the choice depends; null when it does not matter
     * @param  bool  $retired  whether retired terms may be chosen
     */
    public function __construct(
        private Vocabulary $vocabulary,
        private ?string $from = null,
        private ?array $beside = null,
        private bool $retired = false,
    ) {
        $levels = [];
        foreach ($vocabulary->terms as $code => $term) {
            foreach ($term->parents() === [] ? [''] : $term->parents() as $parent) {
                $levels[$parent][] = (string) $code;
            }
        }
        $this->levels = $levels;
    }

    /**
     * What stands directly below a term, at each place it has; the top terms (or the one to begin from) below ''.
     *
     * @return list<VocabularyTerm>
     */
    public function below(string $code): array
    {
        $codes = $code === '' && $this->from !== null ? [$this->from] : $this->levels[$code] ?? [];
        $terms = array_filter(array_map(fn (string $code): ?VocabularyTerm => $this->vocabulary->terms[$code] ?? null, $codes));

        return array_values(
            array_filter($terms, fn (VocabularyTerm $term): bool => $this->isFit($term) || isset($this->levels[$term->code])),
        );
    }

    public function hasBelow(string $code): bool
    {
        return isset($this->levels[$code]);
    }

    /**
     * Terms in whose notation, label or synonyms every typed word begins a word or stands within one, those that begin with
     * what was typed first, otherwise in the vocabulary's order.
     *
     * @return list<VocabularyTerm>
     */
    public function matching(string $typed, int $most): array
    {
        $typed = trim(Tokenizer::fold($typed));
        $words = array_filter(explode(' ', $typed), static fn (string $word): bool => $word !== '');
        $first = $others = [];
        foreach ($this->vocabulary->terms as $term) {
            $names = Tokenizer::fold($term->name()."\n".implode("\n", $term->synonyms));
            foreach ($words as $word) {
                if (! str_contains($names, $word)) {
                    continue 2;
                }
            }
            if (! $this->isFit($term)) {
                continue;
            }
            if (
                str_starts_with($names, $typed) ||
                str_contains($names, "\n{$typed}") ||
                str_starts_with(Tokenizer::fold($term->label), $typed)
            ) {
                $first[] = $term;
            } elseif (count($others) < $most) {
                $others[] = $term;
            }
        }

        return array_slice([...$first, ...$others], 0, $most);
    }

    public function isFit(VocabularyTerm $term): bool
    {
        return ($this->retired || ! $term->retired) &&
            ($this->beside === null || $this->vocabulary->allows($term->code, $this->beside)) &&
            ($this->from === null || in_array($this->from, $this->vocabulary->lineage($term->code), true));
    }
}
