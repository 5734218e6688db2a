<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Retention\Facts\KeptDocument;
use Brenvic\Core\Retention\Rules;

/** What decides how long documents are kept: what a change of the retention rules is tried on. */
interface KeptDocuments
{
    /**
     * @param  list<Rules>  $rules  that ask about them
     * @return iterable<int, KeptDocument> by document
     */
    public function facts(DocumentSet $documents, array $rules): iterable;

    public function rules(Design $design): Rules;

    /** The last day of the quarter that it is, as PartialDate counts days. */
    public function quarterEnd(): int;
}
