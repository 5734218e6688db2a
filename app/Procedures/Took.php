<?php

declare(strict_types=1);

namespace App\Procedures;

/** How long tasks took. */
final class Took
{
    /** From when a task was opened to when it was closed. */
    public static function hours(\stdClass $task): float
    {
        return (strtotime((string) $task->closed_at) - strtotime((string) $task->opened_at)) / 3600;
    }

    /**
     * At most so long took half of them, to a tenth.
     *
     * @param  array<float>  $hours
     */
    public static function median(array $hours): ?float
    {
        sort($hours);

        return $hours === [] ? null : round($hours[intdiv(count($hours), 2)], 1);
    }
}
