<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

use Brenvic\Core\Search\Asking\KeptSearch;

/** A row of a report, with the search that opens what it is about. */
final readonly class ReportRow
{
    /** @param  list<string|int|float|null>  $cells  null where nothing can be said */
    public function __construct(public array $cells, public ?KeptSearch $search = null)
    {
    }

    /** @param  list<string|int|float|null>  $cells */
    public static function finds(array $cells, string $cql): self
    {
        return new self($cells, new KeptSearch(criteria: [['cql' => $cql, 'negated' => false, 'on' => true]]));
    }
}
