<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** A whole query: what to find and in which order. */
final readonly class Query
{
    /** @param  list<SortKey>  $sortKeys */
    public function __construct(
        public Node $root,
        public array $sortKeys = [],
    ) {
    }

    public static function everything(): self
    {
        return new self(SearchClause::everything());
    }
}
