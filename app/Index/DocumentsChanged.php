<?php

declare(strict_types=1);

namespace App\Index;

/** Some documents are in the index as they are now. It is told within the transaction that changed them. */
final readonly class DocumentsChanged
{
    /** @param  list<int>  $ids */
    public function __construct(public array $ids)
    {
    }
}
