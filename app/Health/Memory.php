<?php

declare(strict_types=1);

namespace App\Health;

/** The memory that the processes of the server share, in which parts of the index are kept ready. */
final class Memory
{
    /** How full it is; null where none is shared. */
    public static function says(): ?string
    {
        if (! function_exists('apcu_enabled') || ! apcu_enabled()) {
            return null;
        }
        $memory = apcu_sma_info(true);
        $asked = apcu_cache_info(true);
        if ($memory === false || $asked === false) {
            return null;
        }
        $all = max(1.0, (float) $memory['seg_size'] * (float) $memory['num_seg']);
        $hits = (float) $asked['num_hits'];
        $used = (int) round(20 * (1 - (float) $memory['avail_mem'] / $all)) * 5;
        $had = (int) round(100 * $hits / max(1.0, $hits + (float) $asked['num_misses']));

        return sprintf('%d%% of %d MB are in use; %d%% of what was asked for was there.', $used, (int) round($all / 1_048_576), $had);
    }
}
