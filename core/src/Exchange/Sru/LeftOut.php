<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use Brenvic\Core\Query\Node;

/** A line of the ledger that another repository was not asked for, or not as it stands. */
final readonly class LeftOut
{
    /**
     * @param  string  $reason  a sentence
     * @param  bool  $isAsked  whether it was asked for all the same, less widely
     */
    public function __construct(
        public Node $node,
        public string $reason,
        public bool $isAsked = false,
    ) {
    }
}
