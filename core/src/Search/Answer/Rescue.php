<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

/** Lines of a search that finds nothing, and how many documents there are without them. */
final readonly class Rescue
{
    /** @param  list<int>  $lines places in the ledger, from 0 */
    public function __construct(public array $lines, public int $count)
    {
    }
}
