<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\Impact;

/** How near to each other the words of a nearness stand in each document that has it, in steps from 1 to 15 (nearest). */
final readonly class RankedNearness
{
    private const DIGITS = 4;

    /** @var array<int, int> document => steps */
    public array $steps;

    /** @param  array<int, int>  $distances  document => distance */
    public function __construct(array $distances)
    {
        $this->steps = array_map(static fn (int $distance): int => max(1, Impact::HIGHEST + 1 - max(1, $distance)), $distances);
    }

    public function slices(): BitSlices
    {
        $offsets = [];
        foreach ($this->steps as $document => $steps) {
            for ($digit = 0; $digit < self::DIGITS; $digit++) {
                if (($steps >> $digit & 1) === 1) {
                    $offsets[$document >> 16][$digit][] = $document & 0xFFFF;
                }
            }
        }

        return new BitSlices(
            array_map(static fn (array $digits): array => array_map(Bits::of(...), $digits), $offsets),
            DocumentSet::none(),
        );
    }
}
