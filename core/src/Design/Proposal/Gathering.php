<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** A column whose values each gather rows that share others: what a dossier is, or a row of a reference table. */
final readonly class Gathering
{
    /**
     * @param  int  $key  the place of the column
     * @param  list<int>  $shares  the places of what its rows share
     * @param  int  $values  how many different values gather rows
     * @param  float  $each  rows that a value gathers on average
     * @param  GatheredAs  $as  what it is best made
     * @param  list<string>  $says  evidence, in sentences without a stop
     */
    public function __construct(
        public int $key,
        public array $shares,
        public int $values,
        public float $each,
        public GatheredAs $as,
        public array $says,
    ) {
    }
}
