<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** One value of a facet with the documents that have it in the present result. */
final readonly class FacetValue
{
    /**
     * @param  list<string>  $parents  the values directly above it in a tree; for a month its year
     * @param  bool  $chosen  required by the search
     * @param  bool  $more  whether there are values below it, listed or not
     * @param  bool  $excluded  left out by the search; `count` is then what leaving it out costs
     */
    public function __construct(
        public string $value,
        public string $label,
        public array $parents,
        public int $count,
        public bool $chosen = false,
        public bool $excluded = false,
        public ?StandingOut $standingOut = null,
        public bool $more = false,
    ) {
    }
}
