<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Support\DiskFull;
use App\Support\Refused;
use Brenvic\Core\Capture\UnreadableFile;
use Carbon\CarbonInterface;
use Illuminate\Contracts\Database\Query\Builder;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/**
 * One rule for all work in the background:
 *
 * - it is reserved for longer than it may take (`retry_after` in config/queue.php), so that it never has two makers; when a
 *   worker dies, what it had is free again at once (App\Jobs\Workers);
 * - it can be killed at any point and done again;
 * - after its last try it ends in a state that somebody sees, with a reason in words and without a path of the server.
 */
abstract class BackgroundJob implements ShouldQueue
{
    use Queueable;

    /** What fails twice by being killed or by running out of time fails a third time. */
    public int $tries = 2;

    /** Seconds. */
    public int $timeout = 580;

    /** The id of what it is about. */
    abstract public function about(): int;

    /**
     * The ids of what says since before some time that such a job is at work on it, or will be.
     *
     * @return list<int>
     */
    abstract public static function unfinished(CarbonInterface $before): array;

    /** @return list<int> */
    final protected static function ids(Builder $query): array
    {
        return array_values(array_map(intval(...), $query->pluck('id')->all()));
    }

    /** Notes that it was given up, where somebody sees it. */
    abstract protected function givenUp(string $reason): void;

    final public function failed(?Throwable $fault): void
    {
        $this->givenUp(self::reason($fault));
    }

    /** Why something failed, as people may read it. */
    public static function reason(?Throwable $fault): string
    {
        $message = (string) $fault?->getMessage();

        return match (true) {
            DiskFull::isWhy($fault) => 'the disk is full',
            $fault instanceof Refused, $fault instanceof UnreadableFile => rtrim($message, '.'),
            $fault === null,
            $fault instanceof \Illuminate\Queue\MaxAttemptsExceededException => 'it was stopped twice, by running out of time or memory',
            default => 'a fault in the program, which is in the log of the server',
        };
    }
}
