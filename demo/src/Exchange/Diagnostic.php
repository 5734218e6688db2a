<?php

declare(strict_types=1);

namespace Demo\Exchange;

use RuntimeException;

/** A diagnostic of SRU, by its number in the list `info:srw/diagnostic/1`. */
final class Diagnostic extends RuntimeException
{
    public function __construct(public readonly int $number, public readonly string $details, string $message)
    {
        parent::__construct($message);
    }
}
