<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures;

use Brenvic\Core\Index\DocumentSet;

/** What came of running a procedure on documents. */
final readonly class TrialResult
{
    /**
     * @param  array<string, DocumentSet>  $reached  which documents could come to each step
     * @param  array<string, array<string, list<DocumentSet>>>  $taken  which each way takes of them, by step and decision
     * @param  array<string, array<string, DocumentSet>>  $lost  for which no way holds
     */
    public function __construct(public array $reached, public array $taken, public array $lost)
    {
    }
}
