<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

/** What of a query cannot be answered; the values are the numbers of the list of diagnostics `info:srw/diagnostic/1`. */
enum SearchFault: int
{
    case ContextSet = 15;
    case Index = 16;
    case Relation = 19;
    case Modifier = 20;
    case RelationForIndex = 22;
    case Masking = 28;
    case Term = 36;
    case Boolean = 37;
    case BooleanModifier = 46;
    case Other = 48;
}
