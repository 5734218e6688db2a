<?php

declare(strict_types=1);

namespace App\Health;

use Illuminate\Support\Facades\DB;
use Throwable;

/** Whether everything that an office needs is there and works. */
final class Health
{
    /** A worker may be at one job for so long, in seconds. */
    private const BUSY = 700;

    /** Of the disk, so much must be free: bytes, or a part of it. */
    private const FREE_BYTES = 1_000_000_000;

    private const FREE_PART = 0.03;

    /** A backup is late after so many hours. */
    private const BACKUP_HOURS = 26;

    /** What works in the background, and what stands still without it. */
    private const WORKERS = [
        '1' => ['first worker', 'The first worker does not answer: texts are not read and deliveries not made.'],
        '2' => ['second worker', 'The second worker does not answer: what people wait for takes longer.'],
        'watch' => ['watcher', 'The watcher does not answer: nothing comes in from the sources.'],
        'care' => ['carer', 'Nobody looks after backups and alarms.'],
    ];

    /** @return list<Check> */
    public static function checks(): array
    {
        return [self::database(), self::disk(), ...self::workers(), self::jobs(), self::backup()];
    }

    /** @return list<string> names of what is needed to serve anybody and is not there */
    public static function missing(): array
    {
        $needed = array_filter([self::database(), self::disk()], static fn (Check $check): bool => $check->isNeeded && ! $check->isWell);

        return array_values(array_map(static fn (Check $check): string => $check->name, $needed));
    }

    private static function database(): Check
    {
        try {
            DB::table('migrations')->limit(1)->count();

            // An index that is being made anew is still searched as it was.
            return new Check('database', true, 'The database answers.', isNeeded: true);
        } catch (Throwable) {
            return new Check('database', false, 'The database does not answer.', isNeeded: true);
        }
    }

    private static function disk(): Check
    {
        $data = (string) config('brenvic.data');
        $free = (float) @disk_free_space($data);
        $all = max(1.0, (float) @disk_total_space($data));
        $isWell = $free > min(self::FREE_BYTES, $all * self::FREE_PART);
        $says = sprintf('%s GB of %s GB are free on the disk of the documents.', number_format($free / 1e9, 1), number_format($all / 1e9, 1));

        return new Check('disk', $isWell, $says, isNeeded: true);
    }

    /** @return list<Check> */
    private static function workers(): array
    {
        $checks = [];
        foreach (self::WORKERS as $beat => [$name, $says]) {
            $age = Beats::age((string) $beat);
            $isWell = $age !== null && $age < self::BUSY;
            $checks[] = new Check($name, $isWell, $isWell ? "The {$name} was there {$age} seconds ago." : $says, isWorker: true);
        }

        return $checks;
    }

    private static function jobs(): Check
    {
        $failed = DB::table('failed_jobs')->where('failed_at', '>', now()->subDay())->count();
        $waiting = DB::table('jobs')->count();

        return new Check('jobs', $failed === 0, "{$waiting} jobs wait; {$failed} were given up within a day.");
    }

    private static function backup(): Check
    {
        if ((string) config('brenvic.backup.folder') === '') {
            return new Check('backup', false, 'No backups are made: BRENVIC_BACKUP is not set.');
        }
        $at = NightlyBackup::madeAt();

        return $at === null
            ? new Check('backup', false, 'No backup was made yet.')
            : new Check('backup', $at->diffInHours(now()) < self::BACKUP_HOURS, "The last backup is of {$at->format('j M Y, H:i')} UTC.");
    }
}
