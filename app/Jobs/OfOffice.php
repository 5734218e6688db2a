<?php

declare(strict_types=1);

namespace App\Jobs;

/** Work that there is one of: it is about the whole office. */
trait OfOffice
{
    private const ONE = 1;

    public function about(): int
    {
        return self::ONE;
    }
}
