<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** How a field lies in the documents of a view. */
final readonly class FieldAdvice
{
    /**
     * @param  int  $filled  documents that have a value
     * @param  int  $distinct  different values, 0 where they were not counted
     * @param  float  $bits  entropy
     * @param  string|null  $only  the value that every document has, as it is shown
     */
    public function __construct(
        public string $field,
        public int $filled,
        public int $distinct,
        public float $bits,
        public ?string $only,
    ) {
    }
}
