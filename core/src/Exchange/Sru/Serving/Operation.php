<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

enum Operation: string
{
    case Explain = 'explain';
    case SearchRetrieve = 'searchRetrieve';
    case Scan = 'scan';
}
