<?php

declare(strict_types=1);

namespace App\Fixity;

use App\Alarms\Alarms;
use App\Backup\Backups;
use App\Files\FileStore;
use App\History\Act;
use App\History\History;
use App\Models\StoredFile;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * Every stored file is read again now and then and held against its SHA-256, a piece at a time and no faster than it is set. What
 * is damaged or missing is named at once.
 */
final readonly class Fixity
{
    public function __construct(private FileStore $files)
    {
    }

    /** Whether a round is under way, or due. */
    public static function isDue(): bool
    {
        $last = self::last();

        return $last === null || $last->ended_at === null || Carbon::parse((string) $last->begun_at)->addDays(self::days())->isPast();
    }

    /** The latest round; null before the first. */
    public static function last(): ?stdClass
    {
        return DB::table('file_rounds')->orderByDesc('id')->first();
    }

    /** Begins a round now, whenever it is due. One that is under way goes on. */
    public static function begin(): void
    {
        if (self::last()?->ended_at !== null || self::last() === null) {
            DB::table('file_rounds')->insert(['begun_at' => now(), 'read_at' => now()]);
        }
    }

    /**
     * Reads on for some time.
     *
     * @param  float  $seconds  at most
     * @return bool whether there is more to be read
     */
    public function read(float $seconds): bool
    {
        self::isDue() && self::begin();
        $round = self::last();
        if ($round === null || $round->ended_at !== null) {
            return false;
        }
        $until = microtime(true) + $seconds;
        while (microtime(true) < $until) {
            $file = StoredFile::query()->where('sha256', '>', (string) $round->reached)->orderBy('sha256')->first();
            if ($file === null) {
                DB::table('file_rounds')->where('id', $round->id)->update(['ended_at' => now(), 'read_at' => now()]);

                return false;
            }
            $since = microtime(true);
            $this->look($file->sha256, $round);
            $round->reached = $file->sha256;
            DB::table('file_rounds')->where('id', $round->id)->update([
                'reached' => $file->sha256,
                'files' => DB::raw('files + 1'),
                'bytes' => DB::raw('bytes + '.(int) $file->bytes),
                'read_at' => now(),
            ]);
            // Reading is not to keep others from reading.
            $wanted = (int) $file->bytes / self::rate() - (microtime(true) - $since);
            $wanted > 0 && usleep((int) (min($wanted, max(0.0, $until - microtime(true))) * 1e6));
        }

        return true;
    }

    /**
     * Brings a damaged or missing file back from the backup.
     *
     * @throws Refused when it cannot
     */
    public function restore(User $by, string $sha256): void
    {
        $fault = $this->files->fault($sha256);
        if ($fault !== null) {
            if ((string) config('brenvic.backup.folder') === '') {
                throw new Refused('No backups are made here, so the file cannot be brought back.');
            }
            if (! Backups::set()->mend($sha256, $this->files->path($sha256))) {
                throw new Refused('The backup does not have this file whole. Nothing was changed.');
            }
            if ($this->files->fault($sha256) !== null) {
                throw new Refused('What came from the backup is not what was stored. Nothing is given out of it.');
            }
        }
        DB::transaction(static function () use ($by, $sha256): void {
            DB::table('file_faults')->where('sha256', $sha256)->delete();
            History::record(Act::FileRestored, $by, null, ['sha256' => $sha256]);
        });
        DB::table('file_faults')->doesntExist() && Alarms::clear('file');
    }

    /**
     * The documents that have a file, now, in an earlier version or as a copy.
     *
     * @return list<int>
     */
    public static function documents(string $sha256): array
    {
        $of = DB::table('documents')
            ->select('id')
            ->where('sha256', $sha256)
            ->union(DB::table('versions')->select('document_id')->where('sha256', $sha256))
            ->union(DB::table('renditions')->select('document_id')->where('sha256', $sha256))
            ->union(DB::table('check_outs')->select('document_id')->where('sha256', $sha256));

        return Column::numbers(DB::query()->fromSub($of, 'having')->orderBy('id')->pluck('id'));
    }

    private function look(string $sha256, stdClass $round): void
    {
        $fault = $this->files->fault($sha256);
        if ($fault === null) {
            DB::table('file_faults')->where('sha256', $sha256)->delete();

            return;
        }
        // It may have been destroyed since it was read from the list.
        if (StoredFile::query()->whereKey($sha256)->doesntExist()) {
            return;
        }
        DB::table('file_faults')->upsert(['sha256' => $sha256, 'fault' => $fault->value, 'found_at' => now()], ['sha256'], ['fault']);
        DB::table('file_rounds')->where('id', $round->id)->increment('faults');
        Alarms::raise('file', "Stored file {$sha256} is {$fault->value}. Under Oversight, Health, it can be brought back from the backup.");
    }

    /** Bytes a second. */
    private static function rate(): int
    {
        return max(1, (int) config('brenvic.fixity.bytes_a_second'));
    }

    private static function days(): int
    {
        return max(1, (int) config('brenvic.fixity.days'));
    }
}
