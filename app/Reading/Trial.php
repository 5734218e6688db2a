<?php

declare(strict_types=1);

namespace App\Reading;

/** What came of trying a rule. */
final readonly class Trial
{
    /** A rule that finds so many places in a document on the average tells nothing. */
    private const EVERYWHERE = 40;

    /**
     * @param  int  $documents  of the search that the rule is for
     * @param  int  $tried  how many of them were read
     * @param  int  $hits  places that were found in them
     * @param  string|null  $fault  why it was stopped
     * @param  array<string, list<TriedDocument>>  $listed  some documents by outcome
     * @param  array<string, list<string>>  $refs  the references of all by outcome
     */
    public function __construct(
        public int $documents,
        public int $tried,
        public int $hits,
        public ?string $fault,
        public array $listed,
        public array $refs,
    ) {
    }

    public function isEverywhere(): bool
    {
        return $this->tried > 0 && $this->hits >= self::EVERYWHERE * $this->tried;
    }
}
