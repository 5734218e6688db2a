<?php

declare(strict_types=1);

namespace App\Support;

use Closure;
use Illuminate\Support\Facades\DB;

/** Keeps in the memory that the processes of the server share what was made of the database, as long as a stamp says that it holds. */
final class SharedMemory
{
    /** Seconds that something is kept. */
    private const KEPT = 3600;

    /**
     * What was made, or is made now. In a transaction, and where no memory is shared, nothing is kept: the stamp is not asked for then.
     *
     * @template T
     *
     * @param  Closure(): (int|string)  $stamp  changes whenever something else would be made
     * @param  Closure(): T  $make
     * @return T
     */
    public static function kept(string $name, Closure $stamp, Closure $make): mixed
    {
        $database = (string) DB::connection()->getDatabaseName();
        $isShared = function_exists('apcu_enabled') && apcu_enabled() && $database !== ':memory:' && DB::transactionLevel() === 0;
        if (! $isShared) {
            return $make();
        }
        $key = "brenvic/{$name}/".crc32($database.(@fileinode($database) ?: ''));
        $now = $stamp();
        $kept = apcu_fetch($key);
        if (is_array($kept) && $kept[0] === $now) {
            /** @var T */
            return $kept[1];
        }
        $made = $make();
        apcu_store($key, [$now, $made], self::KEPT);

        return $made;
    }
}
