<?php

declare(strict_types=1);

namespace App\Sorting;

use Brenvic\Core\Pages\SeparatorCode;

/** What was seen of one page of a file. */
final readonly class PageSign
{
    /**
     * @param  float  $skew  degrees clockwise that it lies askew
     * @param  int  $turn  degrees clockwise by which it must be turned to be upright
     * @param  SeparatorCode|null  $separator  what its code says, where it is a separator sheet
     */
    public function __construct(
        public int $number,
        public bool $isBlank,
        public float $skew,
        public int $turn,
        public ?SeparatorCode $separator,
    ) {
    }
}
