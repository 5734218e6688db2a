<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** One value of a facet with the documents that have it in the present result. */
final readonly class FacetValue
{
    /**
     * @param  string|null  $parent  the value above it in a tree; for a month its year
     * @param  bool  $chosen  required by the search
     * @param  bool  $excluded  left out by the search; `count` is then what leaving it out costs
     */
    public function __construct(
        public string $value,
        public string $label,
        public ?string $parent,
        public int $count,
        public bool $chosen = false,
        public bool $excluded = false,
        public ?StandingOut $standingOut = null,
    ) {
    }
}
