<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

use Brenvic\Core\Index\DocumentSet;

/** What is counted, and against what. */
final readonly class FacetScope
{
    /**
     * @param  DocumentSet  $set  the result without what the search chose of the field
     * @param  DocumentSet  $whole  all documents of the asker, which standing out is measured against
     * @param  string  $asker  a name for the whole
     */
    public function __construct(
        public DocumentSet $set,
        public DocumentSet $whole,
        public string $asker,
    ) {
    }
}
