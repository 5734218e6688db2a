<?php

declare(strict_types=1);

namespace App\Health;

use Illuminate\Support\Facades\DB;

/** What was used of the disk of the documents on each day. */
final class DiskDays
{
    /** They are told, and kept, so coarsely: a single document is not to be seen in them. */
    private const STEP = 100_000_000;

    private const KEPT = 750;

    /** Notes today. */
    public static function note(): void
    {
        $data = (string) config('brenvic.data');
        $all = (int) @disk_total_space($data);
        if ($all === 0) {
            return;
        }
        $used = $all - (int) @disk_free_space($data);
        $day = ['day' => now()->utc()->toDateString(), 'used' => self::coarse($used), 'all' => self::coarse($all)];
        DB::table('disk_days')->upsert($day, ['day'], ['used', 'all']);
        DB::table('disk_days')
            ->where('day', '<', now()->subDays(self::KEPT)->toDateString())
            ->delete();
    }

    /** @return list<array{day: string, used: int, all: int}> the last ones in order; bytes */
    public static function latest(int $days): array
    {
        $rows = DB::table('disk_days')->orderByDesc('day')->limit($days)->get()->reverse();

        return array_values(
            $rows
                ->map(
                    static fn (\stdClass $row): array => ['day' => (string) $row->day, 'used' => (int) $row->used, 'all' => (int) $row->all],
                )
                ->all(),
        );
    }

    private static function coarse(int $bytes): int
    {
        return intdiv($bytes, self::STEP) * self::STEP;
    }
}
