<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** A controlled list of terms, flat or a tree. */
final readonly class Vocabulary
{
    /** @var array<string, VocabularyTerm> by code, in the vocabulary's own order */
    public array $terms;

    /** @var array<string, string> folded label => code */
    private array $byLabel;

    /** @var array<string, string> folded synonym => code */
    private array $bySynonym;

    /** Whether any term stands below another. */
    public bool $isTree;

    /**
     * @param  iterable<VocabularyTerm>  $terms
     * @param  string|null  $dependsOn  code of the field on whose value the choice depends
     */
    public function __construct(
        public string $code,
        iterable $terms,
        public ?string $dependsOn = null,
    ) {
        $byCode = [];
        $byLabel = $bySynonym = [];
        $isTree = false;
        foreach ($terms as $term) {
            $byCode[$term->code] = $term;
            foreach ($term->synonyms as $synonym) {
                $bySynonym[self::fold($synonym)] ??= $term->code;
            }
            $isTree = $isTree || $term->parents() !== [];
            $byLabel[self::fold($term->label)] ??= $term->code;
            if ($term->notation !== '') {
                $bySynonym[self::fold($term->notation)] ??= $term->code;
                $bySynonym[self::fold($term->name())] ??= $term->code;
            }
        }
        $this->terms = $byCode;
        $this->isTree = $isTree;
        $this->byLabel = $byLabel;
        $this->bySynonym = $bySynonym;
    }

    public function label(string $code): string
    {
        return isset($this->terms[$code]) ? $this->terms[$code]->name() : $code;
    }

    /** The code that `$text` stands for: a code as it is, or the code of the label or else of a synonym, case aside; null when none. */
    public function resolve(string $text): ?string
    {
        return isset($this->terms[$text]) ? $text : ($this->byLabel[self::fold($text)] ?? $this->bySynonym[self::fold($text)] ?? null);
    }

    /**
     * A term and everything above it by any of its parents, nearest first, each once. A cycle ends the walk.
     *
     * @return list<string> codes; just `$code` when the vocabulary does not hold it
     */
    public function lineage(string $code): array
    {
        $line = [$code];
        for ($at = 0; isset($line[$at]); $at++) {
            foreach (($this->terms[$line[$at]] ?? null)?->parents() ?? [] as $parent) {
                if (! in_array($parent, $line, true)) {
                    $line[] = $parent;
                }
            }
        }

        return $line;
    }

    /**
     * Whether a term may be chosen beside some values of the field that the vocabulary depends on.
     *
     * @param  list<string>  $values  normal forms
     */
    public function allows(string $code, array $values): bool
    {
        $under = $this->terms[$code]->under ?? [];

        return $this->dependsOn === null || $under === [] || array_intersect($under, $values) !== [];
    }

    /** The label nearest to `$text`, or null when none is near. */
    public function nearest(string $text): ?string
    {
        $labels = array_map(static fn (VocabularyTerm $term): string => $term->label, array_values($this->terms));

        return Nearest::of($text, $labels);
    }

    private static function fold(string $text): string
    {
        return mb_strtolower(trim($text));
    }
}
