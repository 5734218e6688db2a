<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

/** One step of how a query was answered: what, how many documents came out, how long it took. */
final readonly class PlanStep
{
    /** @param  int  $depth  how deep in the tree, 0 for a whole line */
    public function __construct(
        public int $depth,
        public string $what,
        public int $documents,
        public float $milliseconds,
    ) {
    }
}
