<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Query\Node;

/** One line of a search that finds nothing, changed a little so that something is found. */
final readonly class NearMiss
{
    /**
     * @param  int  $line  place in the ledger, from 0
     * @param  Node  $node  what to put in its place
     * @param  int  $count  documents found then
     */
    public function __construct(
        public NearMissKind $kind,
        public int $line,
        public Node $node,
        public int $count,
    ) {
    }
}
