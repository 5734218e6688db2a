<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Facets\FacetCounts;

/** What a search found. */
final readonly class SearchAnswer
{
    /**
     * @param  int  $visible  documents the asker may see at all
     * @param  list<LineCount>  $lines  in the order of the ledger's lines
     * @param  list<Rescue>  $rescues  when nothing is found: the smallest sets of lines to drop
     * @param  list<NearMiss>  $nearMisses  when nothing is found: small changes of one line that find something
     * @param  array<string, FacetCounts>  $facets  by field code; those of library and repository are always there
     * @param  list<int>  $documents  the asked-for rows
     * @param  array<int, int>  $scores  document => score, when sorted by relevance
     * @param  array<string, float>  $steps  milliseconds by step
     * @param  list<PlanStep>  $plan  how the lines were evaluated, when that was asked for
     */
    public function __construct(
        public int $total,
        public int $visible,
        public array $lines,
        public array $rescues,
        public array $nearMisses,
        public array $facets,
        public array $documents,
        public array $scores,
        public array $steps,
        public array $plan = [],
    ) {
    }
}
