<?php

declare(strict_types=1);

namespace App\Find;

use Brenvic\Core\Facets\FacetCounts;
use Brenvic\Core\Search\Asking\SearchSchema;

/** The values of what a search found, counted, and how long all of it took. */
final readonly class FoundFacets
{
    /**
     * @param  array<string, FacetCounts>  $counts  by field code
     * @param  float  $took  milliseconds, from the beginning of the search
     * @param  array<string, float>  $steps  milliseconds by step
     */
    public function __construct(
        public SearchSchema $schema,
        public array $counts,
        public float $took,
        public array $steps,
    ) {
    }
}
