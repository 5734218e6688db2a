<?php

declare(strict_types=1);

namespace App\Health;

/** What works in the background says now and then that it is there, in files that cost no database. */
final class Beats
{
    /** Seconds between two beats. */
    private const EVERY = 10;

    /** @var array<string, int> the last beat of each in this process */
    private static array $last = [];

    public static function beat(string $name): void
    {
        if (time() - (self::$last[$name] ?? 0) < self::EVERY) {
            return;
        }
        self::$last[$name] = time();
        $folder = config('brenvic.data').'/workers';
        is_dir($folder) || @mkdir($folder, 0700, true);
        @touch("{$folder}/{$name}.beat");
    }

    /** @return int|null seconds since the last beat of one; null where there was none */
    public static function age(string $name): ?int
    {
        $file = config('brenvic.data')."/workers/{$name}.beat";
        clearstatcache(true, $file);
        $at = @filemtime($file);

        return $at === false ? null : max(0, time() - $at);
    }
}
