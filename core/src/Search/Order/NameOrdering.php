<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\NameCode;

/** By the whole of a name: the last key behind those of its beginnings (see NameCode), for the few that share them. */
final readonly class NameOrdering implements Ordering
{
    public function __construct(
        private DocumentNames $names,
        private string $name,
        private bool $descending,
    ) {
    }

    public function keys(array $documents): array
    {
        return array_map(NameCode::folded(...), $this->names->of($this->name, $documents));
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        return [$set, 0];
    }

    public function descending(): bool
    {
        return $this->descending;
    }
}
