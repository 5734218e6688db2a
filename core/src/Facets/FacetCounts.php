<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** A field's values in the present result. */
final readonly class FacetCounts
{
    /**
     * @param  list<FacetValue>  $values  the most frequent ones and those chosen
     * @param  int  $distinct  how many values there are in all
     */
    public function __construct(
        public array $values,
        public int $distinct,
    ) {
    }
}
