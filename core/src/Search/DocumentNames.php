<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

/** Texts that nearly every document has its own of (title, reference, file name) are kept, and sorted, outside the index. */
interface DocumentNames
{
    /**
     * @param  list<int>  $documents
     * @return array<int, string> document => what it sorts by
     */
    public function keys(string $name, array $documents): array;

    /**
     * All documents in order, in lists of any size.
     *
     * @return iterable<list<int>>
     */
    public function walk(string $name, bool $descending): iterable;
}
