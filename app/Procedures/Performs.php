<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Support\Refused;
use Brenvic\Core\Procedures\Acts\Act;

/**
 * Carries out one kind of act, in a transaction of whoever calls.
 *
 * @template T of Act
 */
interface Performs
{
    /**
     * @param  T  $act
     * @return string what came of it, in words; empty where the act says all
     *
     * @throws Refused when it cannot be done
     */
    public function perform(Act $act, Doing $doing): string;
}
