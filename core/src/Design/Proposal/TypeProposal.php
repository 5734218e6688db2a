<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** A document type: rows whose filled columns go together. */
final readonly class TypeProposal
{
    /**
     * @param  string  $value  in the column that names the types; empty when there is one type for all rows
     * @param  array<int, bool>  $columns  place => whether it is required
     */
    public function __construct(public string $value, public string $code, public string $name, public int $rows, public array $columns)
    {
    }
}
