<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Facets\FacetCounts;

/** What a search found. Its facets take longer than all else and are counted when they are asked for. */
final class SearchAnswer
{
    /** @var array<string, FacetCounts>|null */
    private ?array $facets = null;

    /**
     * @param  int  $visible  documents the asker may see at all
     * @param  list<LineCount>  $lines  in the order of the ledger's lines
     * @param  list<Rescue>  $rescues  when nothing is found: the smallest sets of lines to drop
     * @param  list<NearMiss>  $nearMisses  when nothing is found: small changes of one line that find something
     * @param  \Closure(): array<string, FacetCounts>  $count  counts the facets
     * @param  \Closure(string, string): bool  $have  whether all that was found have a value of a field
     * @param  list<int>  $documents  the asked-for rows
     * @param  array<int, int>  $scores  document => score, when sorted by relevance
     * @param  list<PlanStep>  $plan  how the lines were evaluated, when that was asked for
     * @param  int|null  $all  of a search that counts near copies once: how many there are with all of them
     * @param  array<int, int>  $behind  document => near copies that it stands for
     */
    public function __construct(
        public readonly int $total,
        public readonly int $visible,
        public readonly array $lines,
        public readonly array $rescues,
        public readonly array $nearMisses,
        private readonly \Closure $count,
        private readonly \Closure $have,
        public readonly array $documents,
        public readonly array $scores,
        private readonly StepClock $clock,
        public readonly array $plan = [],
        public readonly ?int $all = null,
        public readonly array $behind = [],
    ) {
    }

    /**
     * By field code; those of library and repository are always there. They are of the index as it was when the search was
     * made, so they must be asked for before it is read anew.
     *
     * @return array<string, FacetCounts>
     */
    public function facets(): array
    {
        if ($this->facets === null) {
            $this->clock->done('reading');
            $this->facets = ($this->count)();
            $this->clock->done('facets');
        }

        return $this->facets;
    }

    /**
     * Whether all that was found have a value of a field, and so no other where it takes one. Of a tree they may have it by what
     * is below it.
     *
     * @param  string  $normal  normal form
     */
    public function allHave(string $field, string $normal): bool
    {
        return ($this->have)($field, $normal);
    }

    /** @return array<string, float> milliseconds by step, of those that were taken */
    public function steps(): array
    {
        return $this->clock->steps;
    }
}
