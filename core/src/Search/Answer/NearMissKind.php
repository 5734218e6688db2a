<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

/** In which way a line of a search that finds nothing nearly fits. */
enum NearMissKind: string
{
    case WiderRange = 'wider_range';
    case Variant = 'variant';
    case OtherPlace = 'other_place';
}
