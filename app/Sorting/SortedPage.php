<?php

declare(strict_types=1);

namespace App\Sorting;

/** Where a page comes from, and how it is to lie. */
final readonly class SortedPage
{
    /**
     * @param  string  $source  reference of a waiting document
     * @param  int  $turn  degrees clockwise
     * @param  bool  $isStraightened  whether what it lies askew is taken out
     * @param  bool  $isLeftOut  whether it is kept only among the pages as they came
     */
    public function __construct(
        public string $source,
        public int $page,
        public int $turn = 0,
        public bool $isStraightened = false,
        public bool $isLeftOut = false,
    ) {
    }

    public function isAsItCame(): bool
    {
        return $this->turn === 0 && ! $this->isStraightened && ! $this->isLeftOut;
    }
}
