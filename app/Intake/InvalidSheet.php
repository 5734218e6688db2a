<?php

declare(strict_types=1);

namespace App\Intake;

use RuntimeException;

/** An index sheet that cannot be taken: a sentence for each field at fault. */
final class InvalidSheet extends RuntimeException
{
    /** @param  array<string, string>  $faults by field code */
    public function __construct(public readonly array $faults)
    {
        parent::__construct(count($faults) === 1 ? (string) reset($faults) : count($faults).' fields need correcting.');
    }
}
