<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Health\Beats;
use App\Support\LockingConnection;
use Illuminate\Contracts\Queue\Job;
use Illuminate\Queue\Events\JobExceptionOccurred;
use Illuminate\Queue\Events\JobFailed;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Queue\Events\Looping;
use Illuminate\Queue\Events\WorkerStarting;
use Illuminate\Queue\Worker;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\File;

/**
 * Each worker notes in a file which job it has. When it is killed, the one that is started in its place frees that job at
 * once, instead of leaving it reserved for as long as a job may take. A worker whose database connection was left in the
 * middle of a transaction ends, and is started again with a new one.
 */
final class Workers
{
    /** The environment variable with the worker's number; a worker without one notes nothing. */
    private const SLOT = 'BRENVIC_WORKER';

    /** Seconds between two looks for work that nobody does. */
    private const TENDED = 300;

    private static float $tended = 0.0;

    /** The process that started this worker, and starts it again. */
    private static int $parent = 0;

    public static function watch(): void
    {
        Event::listen(WorkerStarting::class, static function (): void {
            self::$parent = self::parent();
            self::free();
        });
        Event::listen(Looping::class, static function (): void {
            $slot = (string) getenv(self::SLOT);
            $slot === '' || Beats::beat($slot);
            self::tend();
            // When the server is stopped, however that is done, nobody is left to start the worker again.
            if (self::file() !== null && self::parent() !== self::$parent) {
                self::quit();
            }
        });
        Event::listen(JobProcessing::class, static fn (JobProcessing $event) => self::note($event->job));
        Event::listen([JobProcessed::class, JobFailed::class], static fn () => self::note(null));
        Event::listen(JobExceptionOccurred::class, static function (): void {
            self::note(null);
            self::mend();
        });
    }

    /** Frees what the worker before had when it died. */
    public static function free(): void
    {
        $file = self::file();
        if ($file === null || ! is_file($file)) {
            return;
        }
        $job = (int) file_get_contents($file);
        DB::table('jobs')->where('id', $job)->whereNotNull('reserved_at')->update(['reserved_at' => null]);
        File::delete($file);
    }

    /** The first worker looks now and then for work that nobody does any more. */
    private static function tend(): void
    {
        if ((string) getenv(self::SLOT) === '1' && microtime(true) - self::$tended > self::TENDED) {
            self::$tended = microtime(true);
            Orphans::adopt();
        }
    }

    private static function note(?Job $job): void
    {
        $file = self::file();
        if ($file === null) {
            return;
        }
        if ($job === null) {
            File::delete($file);

            return;
        }
        File::ensureDirectoryExists(dirname($file), 0700);
        File::put($file, (string) $job->getJobId());
    }

    private static function mend(): void
    {
        $connection = DB::connection();
        if ($connection->transactionLevel() === 0 && $connection->getPdo()->inTransaction()) {
            LockingConnection::abandon($connection->getPdo());
            self::quit();
        }
    }

    private static function quit(): void
    {
        /** @var Worker $worker */
        $worker = app('queue.worker');
        $worker->shouldQuit = true;
    }

    /** The process that started this one; 0 where that cannot be known. */
    public static function parent(): int
    {
        return function_exists('posix_getppid') ? posix_getppid() : 0;
    }

    private static function file(): ?string
    {
        $slot = (string) getenv(self::SLOT);

        return preg_match('/^\d{1,3}$/', $slot) === 1 ? config('brenvic.data')."/workers/{$slot}" : null;
    }
}
