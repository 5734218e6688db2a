<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;

/** How a sign-in ended: with somebody signed in, or with somebody whose second factor is still asked for. */
final readonly class Admitted
{
    public function __construct(public ?User $user, public bool $needsFactor = false)
    {
    }
}
