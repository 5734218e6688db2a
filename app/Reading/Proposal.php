<?php

declare(strict_types=1);

namespace App\Reading;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Reading\Found;

/** Values that are proposed for a field of a document, with where they stand. */
final readonly class Proposal
{
    /**
     * @param  string  $rule  its code
     * @param  string  $stamp  tells the rule as it is from what it was before
     * @param  string  $by  the name of the rule
     * @param  non-empty-list<array{Found, list<array{string, bool}>}>  $places  each value with its place and the words around it
     * @param  array{int, int}  $record  how often what it proposed was kept, and how often it was proposed
     */
    public function __construct(
        public FieldDefinition $field,
        public string $rule,
        public string $stamp,
        public string $by,
        public array $places,
        public array $record,
    ) {
    }

    /** @return list<string> as normal forms */
    public function values(): array
    {
        return array_map(static fn (array $place): string => $place[0]->value, $this->places);
    }
}
