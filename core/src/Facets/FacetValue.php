<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** A value of a field with how many documents of the result have it. */
final readonly class FacetValue
{
    public function __construct(
        public string $value,
        public string $label,
        public ?string $parent,
        public int $count,
        public bool $chosen,
    ) {
    }
}
