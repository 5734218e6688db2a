<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\DocumentSet;

/** In the order in which documents were numbered, which is that of their references. */
final readonly class AgeOrdering implements Ordering
{
    public function __construct(private bool $descending)
    {
    }

    public function keys(array $documents): array
    {
        return array_combine($documents, $documents);
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        return [DocumentSet::of($this->descending ? $set->newest($offset, $limit) : $set->oldest($offset, $limit)), $offset];
    }

    public function descending(): bool
    {
        return $this->descending;
    }
}
