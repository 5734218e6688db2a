<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** That some columns decide the value of another, but for some rows. */
final readonly class Dependency
{
    /**
     * @param  list<int>  $from  places of one column or two
     * @param  float  $error  the least share of rows to leave out for it to hold everywhere (g3)
     * @param  list<array{from: list<string>, usual: string, found: string, rows: int}>  $exceptions  in the rows that were looked at
     */
    public function __construct(public array $from, public int $to, public float $error, public array $exceptions)
    {
    }
}
