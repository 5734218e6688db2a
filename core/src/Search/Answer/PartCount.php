<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Query\Node;

/** One part of a criterion that is a group, and the documents that fit it alone. */
final readonly class PartCount
{
    /** @param  list<self>  $parts  where the part is a group itself */
    public function __construct(
        public Node $node,
        public bool $negated,
        public int $alone,
        public array $parts,
    ) {
    }
}
