<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** A node of a query's tree: a SearchClause, a BooleanNode or a PrefixNode. */
interface Node
{
}
