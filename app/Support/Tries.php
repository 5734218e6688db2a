<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Support\Facades\RateLimiter;

/** Lets nobody guess for long: failures are counted under a key with `RateLimiter::hit`. */
final class Tries
{
    /** @throws ThrottleRequestsException after so many failures, with the seconds that are left */
    public static function guard(string $key, int $most): void
    {
        if (RateLimiter::tooManyAttempts($key, $most)) {
            throw new ThrottleRequestsException(headers: ['Retry-After' => RateLimiter::availableIn($key)]);
        }
    }
}
