<?php

declare(strict_types=1);

namespace App\Find;

use Brenvic\Core\Query\SortKey;

/** A search as the interface and the command line ask for it. */
final readonly class FindRequest
{
    /**
     * @param  list<SortKey>  $sort
     * @param  list<string>  $columns  field codes shown in each row
     * @param  list<string>|null  $facets  null for all faceted fields
     * @param  list<string>  $where  parts that words are looked for in; none means all
     */
    public function __construct(
        public Criteria $criteria,
        public array $sort = [],
        public array $columns = [],
        public ?array $facets = null,
        public array $where = [],
        public int $offset = 0,
        public int $limit = 50,
    ) {
    }
}
