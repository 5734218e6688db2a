<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/** A document as the index sees it. */
final readonly class IndexedDocument
{
    /**
     * @param  int  $number  1 or more
     * @param  array<string, list<string>>  $parts  part (`Part` value or `Part::ofField`) => texts; no phrase reaches from one text into the next
     * @param  array<string, list<string>>  $values  field code => normal forms; for a tree with the terms above them; none where only
     *                                               the presence of a value counts
     * @param  array<string, list<int>>  $ordinals  field code => places on its line (FieldDefinition::ordinal), whatever their order
     * @param  list<string>  $faceted  codes of the fields in `$values` whose values are counted as facets
     * @param  string  $language  of its words, where it is known: their stems go by it
     */
    public function __construct(
        public int $number,
        public array $parts,
        public array $values,
        public array $ordinals,
        public array $faceted = [],
        public string $language = '',
    ) {
    }
}
