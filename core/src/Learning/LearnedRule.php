<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

use Brenvic\Core\Reading\ReadingRule;

/** A reading rule that was learned from examples. */
final readonly class LearnedRule
{
    /**
     * @param  string  $beside  the printed words beside which the value stands
     * @param  non-empty-list<int>  $from  the documents in which it finds what people gave
     * @param  int  $wrong  in how many it finds something else
     */
    public function __construct(public ReadingRule $rule, public string $beside, public array $from, public int $wrong)
    {
    }
}
