<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;

/** By a number: a date, a quantity, a score. Documents without one go last. */
final readonly class SliceOrdering implements Ordering
{
    public function __construct(
        private BitSlices $slices,
        private bool $descending,
    ) {
    }

    public function keys(array $documents): array
    {
        return $this->slices->values($documents);
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        $with = $set->and($this->slices->present);
        $count = $with->count();
        if ($offset >= $count) {
            return [$set->minus($with), $count];
        }
        [$chosen, $before] = $this->slices->ranked($with, $offset, $limit, $this->descending);

        return [$offset + $limit > $count ? $chosen->or($set->minus($with)) : $chosen, $before];
    }

    public function descending(): bool
    {
        return $this->descending;
    }
}
