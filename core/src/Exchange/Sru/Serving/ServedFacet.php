<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

/** A field with its values in what was found. */
final readonly class ServedFacet
{
    /** @param  list<array{term: string, query: string, count: int}>  $terms  each with the CQL that narrows the search to it */
    public function __construct(public string $index, public string $label, public array $terms)
    {
    }
}
