<?php

declare(strict_types=1);

namespace App\Procedures;

use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\StartRetention;

/** @implements Performs<StartRetention> */
final readonly class StartsRetention implements Performs
{
    public function perform(Act $act, Doing $doing): string
    {
        $doing->document->update(['kept_from' => now()->toDateString()]);

        return 'Retention begins on '.now()->format('j M Y');
    }
}
