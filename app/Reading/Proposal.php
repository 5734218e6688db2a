<?php

declare(strict_types=1);

namespace App\Reading;

use Brenvic\Core\Fields\FieldDefinition;

/** Values that are proposed for a field of a document, with what speaks for them. */
final readonly class Proposal
{
    /**
     * @param  string  $rule  by which its record is kept: the code of a rule, or what else it comes from
     * @param  string  $stamp  tells the rule as it is from what it was before
     * @param  string  $by  what it comes from, in words
     * @param  non-empty-list<ProposedValue>  $values
     * @param  list<int>  $from  documents that it was learned from
     * @param  array{int, int}  $record  how often what it proposed was kept, and how often it was proposed
     * @param  bool  $isStored  whether it is put on the sheet without being asked, where the field is empty
     */
    public function __construct(
        public FieldDefinition $field,
        public string $rule,
        public string $stamp,
        public string $by,
        public array $values,
        public array $from,
        public array $record,
        public bool $isStored = false,
    ) {
    }

    /** @return list<string> as normal forms */
    public function normals(): array
    {
        return array_map(static fn (ProposedValue $of): string => $of->value, $this->values);
    }
}
