<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** `>prefix="uri" query`: a context set named for the query inside. An empty prefix makes it the default set. */
final readonly class PrefixNode implements Node
{
    public function __construct(
        public string $prefix,
        public string $uri,
        public Node $inner,
    ) {
    }
}
