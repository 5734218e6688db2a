<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** How CQL joins two clauses. `Not` means “and not”. */
enum BooleanOperator: string
{
    case And = 'and';
    case Or = 'or';
    case Not = 'not';
    case Prox = 'prox';
}
