<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Copies\Once;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\SortKey;

/** One search: the ledger, the order, which facets to count and which rows to name. */
final readonly class SearchRequest
{
    /**
     * @param  list<SortKey>  $sortKeys  none means by relevance where words are searched, else newest first
     * @param  list<FacetRequest>  $facets
     * @param  bool  $explain  note each step of the evaluation
     * @param  Once|null  $once  counts near copies once
     * @param  int|null  $below  rows of documents with a lower number than this only, the newest first, whatever the order would be; what
     *   changes meanwhile moves none of them
     */
    public function __construct(
        public Ledger $ledger,
        public array $sortKeys = [],
        public array $facets = [],
        public int $offset = 0,
        public int $limit = 50,
        public bool $explain = false,
        public ?Once $once = null,
        public ?int $below = null,
    ) {
    }
}
