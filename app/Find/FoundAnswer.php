<?php

declare(strict_types=1);

namespace App\Find;

/** All that a search found. */
final readonly class FoundAnswer
{
    public function __construct(public Found $found, public FoundFacets $facets)
    {
    }
}
