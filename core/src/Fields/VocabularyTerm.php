<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * One entry of a vocabulary, or concept of a classification scheme. `$parent` is the code of the term above it, or null at the
 * top; a concept may stand below others as well.
 */
final readonly class VocabularyTerm
{
    /**
     * @param  list<string>  $synonyms  other names that it is found and filled in by
     * @param  string  $notation  what it is filed by; empty for none
     * @param  string|null  $replacedBy  code of the term to use instead of a retired one
     * @param  list<string>  $under  the values of another field under which it may be chosen; none means all
     * @param  list<string>  $alsoBelow  codes of further terms above it
     */
    public function __construct(
        public string $code,
        public string $label,
        public ?string $parent = null,
        public array $synonyms = [],
        public string $notation = '',
        public bool $retired = false,
        public ?string $replacedBy = null,
        public array $under = [],
        public array $alsoBelow = [],
    ) {
    }

    /** @return list<string> codes of all terms directly above it, the first being where it has its place in lists */
    public function parents(): array
    {
        return $this->parent === null ? $this->alsoBelow : [$this->parent, ...$this->alsoBelow];
    }

    /** Notation and label, as they are shown. */
    public function name(): string
    {
        return $this->notation === '' || str_starts_with($this->label, $this->notation) ? $this->label : "{$this->notation} {$this->label}";
    }
}
