<?php

declare(strict_types=1);

namespace App\Find;

use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Search\Answer\SearchAnswer;
use Brenvic\Core\Search\Asking\SearchSchema;

/** What a search found, but for its facets. */
final readonly class Found
{
    /**
     * @param  list<Row>  $rows
     * @param  float  $took  milliseconds
     * @param  int  $unread  documents whose texts are still being read, so that more may be found soon
     * @param  array<string, string>  $same  columns in which all that was found say the same, by field code
     */
    public function __construct(
        public FindRequest $request,
        public SearchSchema $schema,
        public Ledger $ledger,
        public SearchAnswer $answer,
        public array $rows,
        public float $took,
        public array $same = [],
        public int $unread = 0,
    ) {
    }
}
