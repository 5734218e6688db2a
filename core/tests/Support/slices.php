<?php

declare(strict_types=1);

use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;

/** @param  array<int, int>  $numbers  document => number */
function slicesOf(array $numbers): BitSlices
{
    $offsets = [];
    foreach ($numbers as $document => $number) {
        for ($digit = 0; $number >> $digit > 0; $digit++) {
            if ((($number >> $digit) & 1) === 1) {
                $offsets[$document >> 16][$digit][] = $document & 0xFFFF;
            }
        }
    }

    return new BitSlices(
        array_map(static fn (array $digits): array => array_map(Bits::of(...), $digits), $offsets),
        DocumentSet::of(array_keys($numbers)),
    );
}
