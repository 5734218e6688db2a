<?php

declare(strict_types=1);

namespace App\Index;

use App\Alarms\Alarms;
use App\Models\Document;
use App\Support\Column;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * The index held against the documents, a piece at a time while both are worked with. What was found is kept until it is compared
 * again; where it was stopped it goes on.
 */
final readonly class Comparison
{
    /** Documents that are named of those that differ. */
    private const MOST = 10_000;

    public function __construct(private Health $health)
    {
    }

    /** The latest; null before the first. */
    public static function last(): ?stdClass
    {
        return DB::table('index_checks')->orderByDesc('id')->first();
    }

    public static function isRunning(): bool
    {
        $last = self::last();

        return $last !== null && $last->ended_at === null;
    }

    /** Begins one. One that is under way goes on. */
    public static function begin(): void
    {
        DB::transaction(static function (): void {
            if (! self::isRunning()) {
                DB::table('index_checks')->delete();
                DB::table('index_checks')->insert(['begun_at' => now(), 'went_on_at' => now()]);
            }
        });
    }

    /** @return list<int> the documents that were found to be indexed otherwise than they are */
    public static function differing(stdClass $check): array
    {
        return Column::numbers(DB::table('index_faults')->where('check_id', $check->id)->orderBy('document_id')->pluck('document_id'));
    }

    /** In per cent. */
    public static function percent(stdClass $check): int
    {
        if ($check->ended_at !== null) {
            return 100;
        }
        $filed = Document::query()->where('state', Document::FILED);
        $all = max(1, (clone $filed)->count());
        $done = $check->records_done ? $all : (clone $filed)->where('id', '<=', (int) $check->reached)->count();

        return (int) min(99, intdiv(80 * $done, $all) + ($check->records_done ? 1 + min(19, (int) $check->segments_done) : 0));
    }

    /**
     * Goes on for some time.
     *
     * @param  float  $seconds  at most, but for one piece
     * @return bool whether there is more to compare
     */
    public function goOn(float $seconds): bool
    {
        $until = microtime(true) + $seconds;
        while (microtime(true) < $until) {
            $check = self::last();
            if ($check === null || $check->ended_at !== null) {
                return false;
            }
            $check->records_done ? $this->oneSegment($check) : $this->onePiece($check);
        }

        return self::isRunning();
    }

    private function onePiece(stdClass $check): void
    {
        $piece = $this->health->records((int) $check->reached);
        self::note($check, array_merge($piece['missing'], $piece['surplus'], $piece['different']), [
            'reached' => $piece['reached'] ?? (int) $check->reached,
            'records_done' => $piece['reached'] === null,
        ]);
    }

    private function oneSegment(stdClass $check): void
    {
        $segment = $this->health->segments()[(int) $check->segments_done] ?? null;
        if ($segment === null) {
            self::note($check, [], ['ended_at' => now()]);
            $differs = DB::table('index_faults')->where('check_id', $check->id)->exists();
            $differs
                ? Alarms::raise('index', 'The index and the documents do not agree. Rebuild the index under Oversight, Health.')
                : Alarms::clear('index');

            return;
        }
        self::note($check, array_merge(...array_values($this->health->keys($segment))), [
            'segments_done' => (int) $check->segments_done + 1,
        ]);
    }

    /**
     * @param  list<int>  $ids
     * @param  array<string, mixed>  $now
     */
    private static function note(stdClass $check, array $ids, array $now): void
    {
        DB::transaction(static function () use ($check, $ids, $now): void {
            $room = self::MOST - DB::table('index_faults')->where('check_id', $check->id)->count();
            $rows = array_map(
                static fn (int $id): array => ['check_id' => $check->id, 'document_id' => $id],
                array_slice(array_values(array_unique($ids)), 0, max(0, $room)),
            );
            foreach (array_chunk($rows, 400) as $chunk) {
                DB::table('index_faults')->insertOrIgnore($chunk);
            }
            DB::table('index_checks')
                ->where('id', $check->id)
                ->update([...$now, 'went_on_at' => now()]);
        });
    }
}
