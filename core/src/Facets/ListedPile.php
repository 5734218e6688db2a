<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** Numbers in a list. */
final readonly class ListedPile implements Pile
{
    /** @param  list<int>  $numbers  ascending, none below zero */
    public function __construct(
        private array $numbers,
        private int $from,
        private int $to,
    ) {
    }

    public function count(): int
    {
        return $this->to - $this->from;
    }

    public function top(): int
    {
        return $this->count() === 0 ? -1 : strlen(decbin($this->numbers[$this->to - 1])) - 1;
    }

    public function some(int $most): array
    {
        return array_slice($this->numbers, $this->from, min($most, $this->count()));
    }

    public function split(int $digit): array
    {
        // As they agree above it, those with the digit are the last.
        [$low, $high] = [$this->from, $this->to];
        while ($low < $high) {
            $middle = $low + $high >> 1;
            if (($this->numbers[$middle] >> $digit & 1) === 1) {
                $high = $middle;
            } else {
                $low = $middle + 1;
            }
        }

        return [
            $low === $this->from ? null : new self($this->numbers, $this->from, $low),
            $low === $this->to ? null : new self($this->numbers, $low, $this->to),
        ];
    }
}
