<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** The index values that documents have, as they are stored: what a change of the design is tried on. */
interface StoredValues
{
    /**
     * The different values of a field.
     *
     * @return array<int|string, int> normal form => documents that have it
     */
    public function distinct(string $field): array;

    /** How many documents have more than one value in a field. */
    public function several(string $field): int;
}
