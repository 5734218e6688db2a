<?php

declare(strict_types=1);

namespace App\Find;

use App\Models\User;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\ColumnFormat;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\Criteria;

/** A search as the interface and the command line ask for it. */
final readonly class FindRequest
{
    /**
     * @param  list<SortKey>  $sort
     * @param  list<string>  $columns  field codes shown in each row
     * @param  array<string, FacetRequest>  $facets  by field code
     * @param  bool  $allFacets  count all faceted fields, those in `$facets` in their own way
     * @param  array<string, ColumnFormat>  $formats  how columns are shown, by field code
     * @param  User|null  $as  somebody whose sight is added as a condition
     * @param  bool  $snippets  with the sentence of the first hit, and where else it stands
     * @param  bool  $once  near copies are counted once
     * @param  int|null  $below  rows of documents with a lower number than this only, by number
     * @param  list<string>  $where  parts that words are looked for in; none means all
     */
    public function __construct(
        public Criteria $criteria,
        public array $sort = [],
        public array $columns = [],
        public array $facets = [],
        public bool $allFacets = true,
        public array $where = [],
        public int $offset = 0,
        public int $limit = 50,
        public bool $explain = false,
        public array $formats = [],
        public ?User $as = null,
        public bool $snippets = true,
        public bool $once = false,
        public ?int $below = null,
    ) {
    }

    /** The same search for the cells of one stretch of its rows alone. */
    public function page(int $offset, int $limit): self
    {
        return new self(
            $this->criteria,
            $this->sort,
            $this->columns,
            [],
            false,
            $this->where,
            $offset,
            $limit,
            false,
            $this->formats,
            $this->as,
            false,
            $this->once,
        );
    }
}
