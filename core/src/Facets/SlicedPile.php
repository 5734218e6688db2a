<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;

/** The numbers of a set of documents, in bit slices. */
final readonly class SlicedPile implements Pile
{
    /** @param  DocumentSet  $documents  which all have a number */
    public function __construct(
        private BitSlices $slices,
        private DocumentSet $documents,
    ) {
    }

    public function count(): int
    {
        return $this->documents->count();
    }

    public function top(): int
    {
        return $this->slices->width() - 1;
    }

    public function some(int $most): array
    {
        return array_values($this->slices->values($this->documents->newest(0, $most)));
    }

    public function split(int $digit): array
    {
        $ones = $this->slices->digit($digit);
        // Most digits are the same in all: then there is nothing to divide.
        $with = $this->documents->countCommon($ones);

        return match ($with) {
            0 => [$this, null],
            $this->count() => [null, $this],
            default => [new self($this->slices, $this->documents->minus($ones)), new self($this->slices, $this->documents->and($ones))],
        };
    }
}
