<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** A field's values in the present result. */
final readonly class FacetCounts
{
    /**
     * @param  list<FacetValue>  $values  those asked for, and those chosen or excluded
     * @param  int  $distinct  how many values there are in all
     * @param  list<FacetRange>  $ranges  for numbers, instead of values
     */
    public function __construct(
        public array $values,
        public int $distinct,
        public array $ranges = [],
    ) {
    }
}
