<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

/** Texts that nearly every document has its own of (title, file name) are kept outside the index; it sorts by their beginnings. */
interface DocumentNames
{
    /**
     * @param  list<int>  $documents
     * @return array<int, string> document => the text
     */
    public function of(string $name, array $documents): array;
}
