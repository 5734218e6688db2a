<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Index\DocumentSet;

/** What bringing a version of the design back does to the values of a field. */
final readonly class Returned
{
    /**
     * @param  array<int|string, int>  $come  normal form that is given back => documents
     * @param  array<int|string, int>  $go  normal form that gives way => documents
     * @param  DocumentSet  $given  documents that are given a value back
     * @param  DocumentSet  $left  documents from which a value goes
     * @param  DocumentSet  $emptied  documents that have no value in the field afterwards, and had
     * @param  int  $single  documents that had several and have at most one afterwards
     */
    public function __construct(
        public array $come,
        public array $go,
        public DocumentSet $given,
        public DocumentSet $left,
        public DocumentSet $emptied,
        public int $single,
    ) {
    }

    public static function nothing(): self
    {
        return new self([], [], DocumentSet::none(), DocumentSet::none(), DocumentSet::none(), 0);
    }
}
