<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** In which order a facet's values are listed, and so which of them come first. */
enum FacetOrder: string
{
    case Count = 'count';
    case Name = 'name';
    case StandingOut = 'standing_out';
}
