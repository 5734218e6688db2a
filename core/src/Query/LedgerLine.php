<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** One criterion of a search. Lines are all required; a negated line must not hold; a line switched off is ignored. */
final readonly class LedgerLine
{
    /** @param  string  $origin  where whoever asks has the line from, in their words; given back with the answer */
    public function __construct(
        public Node $node,
        public bool $negated = false,
        public bool $on = true,
        public string $origin = '',
    ) {
    }

    public function cql(): string
    {
        return Printer::node($this->node);
    }
}
