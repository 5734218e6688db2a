<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\DocumentSet;

/** One key to sort by. */
interface Ordering
{
    /**
     * What to compare for some documents; a document without a value is left out and goes last.
     *
     * @param  list<int>  $documents
     * @return array<int, int|string>
     */
    public function keys(array $documents): array;

    /**
     * Whole groups of equal documents that hold the ranks `[$offset, $offset + $limit)` of `$set`, few if it can be.
     *
     * @return array{DocumentSet, int} the documents, and how many of `$set` stand before them
     */
    public function around(DocumentSet $set, int $offset, int $limit): array;

    public function descending(): bool;
}
