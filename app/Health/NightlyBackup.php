<?php

declare(strict_types=1);

namespace App\Health;

use App\Alarms\Alarms;
use App\Backup\Backups;
use App\Backup\Snapshot;
use App\Support\OfficeSetting;
use Illuminate\Support\Carbon;
use Throwable;

/** Makes the backup of a night, where the office has said where to, and takes old ones away. */
final class NightlyBackup
{
    private const NAME = 'backup';

    /** Whether one is due: at the hour that is set, once a day. */
    public static function isDue(): bool
    {
        if ((string) config('brenvic.backup.folder') === '') {
            return false;
        }
        $at = now((string) config('brenvic.backup.timezone'))->setTimeFromTimeString((string) config('brenvic.backup.at'));
        $due = $at->isFuture() ? $at->subDay() : $at;

        return (self::last()['tried'] ?? '') < $due->utc()->format('Y-m-d\TH:i:s\Z');
    }

    public static function make(): void
    {
        self::note(['tried' => now()->utc()->format('Y-m-d\TH:i:s\Z')]);
        try {
            $backups = Backups::set();
            $snapshot = $backups->make();
            self::prune($backups);
            self::note(['made' => $snapshot->name, 'faults' => $snapshot->faults]);
            foreach ($snapshot->faults as $fault) {
                Alarms::raise('file', $fault);
            }
            Alarms::clear('backup');
        } catch (Throwable $fault) {
            Alarms::raise('backup', "The backup of tonight was not made: {$fault->getMessage()}");
        }
    }

    /** @return list<string> names of those that were taken away */
    public static function prune(Backups $backups): array
    {
        return $backups->prune((int) config('brenvic.backup.days'), (int) config('brenvic.backup.weeks'), (int) config('brenvic.backup.months'));
    }

    /** @return array{tried?: string, made?: string, faults?: list<string>} the last one */
    public static function last(): array
    {
        /** @var array{tried?: string, made?: string, faults?: list<string>} */
        return (array) OfficeSetting::get(self::NAME);
    }

    /** When the last one was made. */
    public static function madeAt(): ?Carbon
    {
        $made = self::last()['made'] ?? null;

        return $made === null ? null : Snapshot::timeOf($made);
    }

    /** @param  array<string, mixed>  $more */
    private static function note(array $more): void
    {
        OfficeSetting::put(self::NAME, [...self::last(), ...$more]);
    }
}
