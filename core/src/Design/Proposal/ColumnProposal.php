<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** What one column of a table would be in a design, with what speaks for it. */
final readonly class ColumnProposal
{
    /**
     * @param  int  $place  of the column, from 0
     * @param  string  $name  as the table has it
     * @param  string  $code  for the field
     * @param  non-empty-list<Reading>  $readings  the best first, then what else it could be
     * @param  float  $fill  the share of rows that have a value
     * @param  int  $distinct  different values; estimated unless the column was counted exactly
     * @param  list<string>  $examples  the most frequent values
     * @param  string  $separator  that parts several values; empty when each row has one
     * @param  string  $sensitivity  why the values are probably sensitive; empty when nothing says so
     * @param  list<array<string, mixed>>  $terms  for a vocabulary, as designs have them
     * @param  bool  $isScheme  whether they are a tree of codes
     * @param  int|null  $dependsOn  the place of the column whose value decides what may be chosen
     * @param  int|null  $sameAs  the place of a column that says the same in other words, and is proposed
     * @param  string|null  $existing  the code of a field that is there already
     * @param  list<string>  $says  evidence beside that of the reading
     * @param  list<array{string, string}>  $doubles  values that are probably one, written in two ways
     * @param  bool  $isLeftOut  whether it is told elsewhere, like the names of files
     * @param  list<string>  $unknown  values that the existing field does not know
     */
    public function __construct(
        public int $place,
        public string $name,
        public string $code,
        public array $readings,
        public float $fill,
        public int $distinct,
        public array $examples,
        public string $separator = '',
        public string $sensitivity = '',
        public array $terms = [],
        public bool $isScheme = false,
        public ?int $dependsOn = null,
        public ?int $sameAs = null,
        public ?string $existing = null,
        public array $says = [],
        public array $doubles = [],
        public bool $isLeftOut = false,
        public array $unknown = [],
    ) {
    }

    public function kind(): string
    {
        return $this->readings[0]->kind;
    }

    /** Whether hardly a row is without a value. */
    public function isRequired(): bool
    {
        return $this->fill >= 0.995;
    }

    /** Whether it divides the rows into groups that are worth counting. */
    public function isFaceted(): bool
    {
        return in_array($this->kind(), ['choice', 'yes_no', 'date', 'number', 'amount', 'person'], true) && $this->distinct > 1;
    }

    /** The same under another name. */
    public function called(string $name, string $code, bool $isLeftOut): self
    {
        return new self(
            $this->place,
            $name,
            $code,
            $this->readings,
            $this->fill,
            $this->distinct,
            $this->examples,
            $this->separator,
            $this->sensitivity,
            $this->terms,
            $this->isScheme,
            $this->dependsOn,
            $this->sameAs,
            $this->existing,
            $this->says,
            $this->doubles,
            $isLeftOut,
            $this->unknown,
        );
    }
}
