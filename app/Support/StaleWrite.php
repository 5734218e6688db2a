<?php

declare(strict_types=1);

namespace App\Support;

use RuntimeException;

/** Somebody else changed the thing in the meantime. Carries it as it is now, so that both versions can be shown. */
final class StaleWrite extends RuntimeException
{
    public function __construct(public readonly mixed $current)
    {
        parent::__construct('Somebody else changed this while you were working on it. Nothing was overwritten; both versions are shown.');
    }
}
