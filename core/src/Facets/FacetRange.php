<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** A stretch of a number field with the documents that have a value in it, both ends included. */
final readonly class FacetRange
{
    /** @param  string  $from  and `$to` are normal forms */
    public function __construct(
        public string $from,
        public string $to,
        public int $count,
    ) {
    }
}
