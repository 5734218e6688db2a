<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\ReadingRule;

/** A reading rule that was learned from examples. */
final readonly class LearnedRule
{
    /**
     * @param  string  $beside  the printed words beside which the value stands
     * @param  non-empty-list<int>  $from  the documents in which it finds what people gave
     * @param  int  $wrong  in how many it finds something else
     * @param  string|null  $only  what all of them have: nothing else was ever seen at that place
     */
    public function __construct(
        public ReadingRule $rule,
        public string $beside,
        public array $from,
        public int $wrong,
        private ?string $only = null,
    ) {
    }

    /**
     * What it finds in a document.
     *
     * @param  array<int, TextPage>  $pages  by their number
     */
    public function found(FieldDefinition $field, array $pages): ?Found
    {
        $found = Reader::proposed($this->rule, $field, $pages)[0] ?? null;

        // What is the same on all of them could stand anywhere: it is known again by itself alone.
        return $this->only === null || $found?->value === $this->only ? $found : null;
    }
}
