<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\Eloquent\Model;

/** Optimistic locking of the parts of the design. */
final class Versions
{
    /**
     * Lets a write pass when it was made on the newest version, and counts the version up.
     *
     * @template T of Model
     *
     * @param  T  $thing
     * @param  callable(T): mixed  $shape  what is shown of it to whoever came second
     */
    public static function advance(Model $thing, int $seen, callable $shape): void
    {
        $thing->refresh();
        if ($thing->getAttribute('lock_version') !== $seen) {
            throw new StaleWrite($shape($thing));
        }
        $thing->setAttribute('lock_version', $seen + 1);
    }
}
