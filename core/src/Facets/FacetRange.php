<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** A stretch of a number field with the documents that have a value in it, both ends included. */
final readonly class FacetRange
{
    /**
     * @param  string  $from  the lowest number in it, in normal form as the others
     * @param  string  $to  the highest
     * @param  string  $until  what it is said to reach to: of large numbers, and of those with places behind the point, where the next one begins
     */
    public function __construct(public string $from, public string $to, public string $until, public int $count)
    {
    }
}
