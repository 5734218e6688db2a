<?php

declare(strict_types=1);

namespace App\Jobs;

use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;

/**
 * Work that says it is going on while no job is there to do it: who began it, or gave it up, was killed between the two. It is
 * begun once more; what is found so again is given up, so that somebody sees it.
 */
final class Orphans
{
    /** Seconds within which a job may still be on its way. */
    private const AGE = 120;

    private const REMEMBERED = 86_400;

    /** @var list<class-string<BackgroundJob>> */
    private static array $kinds = [];

    /**
     * Says which kinds of work there are.
     *
     * @param  class-string<BackgroundJob>  ...$kinds  each is made with the id of what it is about
     */
    public static function know(string ...$kinds): void
    {
        self::$kinds = array_values($kinds);
    }

    /** @return list<class-string<BackgroundJob>> */
    public static function kinds(): array
    {
        return self::$kinds;
    }

    public static function adopt(): void
    {
        $jobs = self::jobs();
        $before = now()->subSeconds(self::AGE);
        foreach (self::$kinds as $class) {
            foreach (array_diff($class::unfinished($before), $jobs[$class] ?? []) as $id) {
                $job = new $class($id);
                if (Cache::add("adopted/{$class}/{$id}", 1, self::REMEMBERED)) {
                    dispatch($job);
                } else {
                    $job->failed(null);
                }
            }
        }
    }

    /** @return array<string, list<int>> by class, what the waiting and running jobs are about */
    private static function jobs(): array
    {
        $jobs = [];
        foreach (DB::table('jobs')->orderBy('id')->lazy(1_000) as $row) {
            $command = json_decode((string) $row->payload, true)['data']['command'] ?? '';
            $job = is_string($command) ? @unserialize($command) : false;
            $about = $job instanceof BackgroundJob ? $job->about() : null;
            if ($about !== null) {
                $jobs[$job::class][] = $about;
            }
        }

        return $jobs;
    }
}
