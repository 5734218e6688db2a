<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** Which values of a field to count and list. */
final readonly class FacetRequest
{
    /**
     * @param  int  $most  how many values are listed
     * @param  string  $search  only values whose label has this in it
     * @param  list<string>  $opened  of a large tree: the values below which is looked
     */
    public function __construct(
        public string $field,
        public int $most = 12,
        public FacetOrder $order = FacetOrder::Count,
        public string $search = '',
        public array $opened = [],
    ) {
    }

    /**
     * @param  list<string>  $fields
     * @return list<self>
     */
    public static function of(array $fields, int $most = 12): array
    {
        return array_map(static fn (string $field): self => new self($field, $most), $fields);
    }
}
