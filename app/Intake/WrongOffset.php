<?php

declare(strict_types=1);

namespace App\Intake;

use RuntimeException;

/** A piece that does not begin where the one before ended. */
final class WrongOffset extends RuntimeException
{
    /**
     * @param  int  $expected  bytes that have arrived
     * @param  int  $provided  bytes that whoever sends thinks have arrived
     */
    public function __construct(public readonly int $expected, public readonly int $provided)
    {
        parent::__construct("{$expected} bytes have arrived, and not {$provided}. Go on from there.");
    }
}
