<?php

declare(strict_types=1);

namespace App\Find;

use Brenvic\Core\Design\FieldAdvice;

/** How fields lie in the documents that a criterion finds. */
final readonly class FoundAdvice
{
    /** @param  list<FieldAdvice>  $fields */
    public function __construct(public int $documents, public array $fields)
    {
    }
}
