<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use Brenvic\Core\Query\Node;

/** A line of the ledger that another repository was not asked for, or not as it stands. */
final readonly class LeftOut
{
    /** @param  string  $reason  a sentence */
    public function __construct(
        public Node $node,
        public string $reason,
    ) {
    }
}
