<?php

declare(strict_types=1);

namespace App\Served;

use App\Access\Rights;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Index\DocumentSet;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

/**
 * When documents changed last, for those who harvest them; and what was in the sight of each of these and is not any more. Who sees
 * the same is one harvester.
 */
final readonly class Changes
{
    private const PIECE = 500;

    public function __construct(private Rights $rights)
    {
    }

    /**
     * Notes that documents are other than they were, within the transaction that made them so. When that was is said once it is over
     * (`settle`): a moment from within it could lie before one up to which others have harvested already.
     *
     * @param  list<int>  $ids
     */
    public static function note(array $ids): void
    {
        foreach (array_chunk(array_values(array_unique($ids)), self::PIECE) as $chunk) {
            DB::table('document_changes')->upsert(
                array_map(static fn (int $id): array => ['document_id' => $id, 'changed_at' => null], $chunk),
                ['document_id'],
                ['changed_at'],
            );
        }
    }

    /** Says when what changed since the last time did: now. */
    public static function settle(): void
    {
        if (DB::table('document_changes')->whereNull('changed_at')->exists()) {
            DB::table('document_changes')
                ->whereNull('changed_at')
                ->update(['changed_at' => self::now()]);
        }
    }

    public static function now(): string
    {
        return self::moment(now());
    }

    /** As others are told of a moment: to the second, in UTC. */
    public static function moment(CarbonInterface $at): string
    {
        return $at->toImmutable()->utc()->format('Y-m-d\TH:i:s\Z');
    }

    /** By which those are known who see the same. */
    public function asker(User $user): string
    {
        return hash('sha256', $this->rights->asker($user)->name());
    }

    /**
     * What a harvester sees now. What they saw when they asked last and do not see now is noted as gone; what they see for the first
     * time since is changed for them.
     */
    public function seen(User $user): DocumentSet
    {
        $asker = $this->asker($user);
        self::settle();
        $sight = $this->rights->sight($user);
        $before = DB::table('harvest_sights')->where('asker', $asker)->value('seen');
        $seen = $before === null ? null : DocumentSet::unpacked((string) $before);
        if ($seen !== null && $seen->minus($sight)->isEmpty() && $sight->minus($seen)->isEmpty()) {
            return $sight;
        }
        DB::transaction(static function () use ($asker, $sight): void {
            // Another may have asked in the meantime.
            $before = DB::table('harvest_sights')->where('asker', $asker)->value('seen');
            $seen = $before === null ? $sight : DocumentSet::unpacked((string) $before);
            self::gone($asker, $seen->minus($sight)->documents());
            $new = $sight->minus($seen)->documents();
            foreach (array_chunk($new, self::PIECE) as $chunk) {
                DB::table('harvest_gone')->where('asker', $asker)->whereIntegerInRaw('document_id', $chunk)->delete();
            }
            self::note($new);
            self::settle();
            DB::table('harvest_sights')->upsert(
                ['asker' => $asker, 'seen' => $sight->packed(), 'asked_at' => now()],
                ['asker'],
                ['seen', 'asked_at'],
            );
        });

        return $sight;
    }

    /** @param  list<int>  $ids */
    private static function gone(string $asker, array $ids): void
    {
        $now = self::now();
        foreach (array_chunk($ids, self::PIECE) as $chunk) {
            DB::table('harvest_gone')->upsert(
                array_map(
                    static fn (int $id): array => [
                        'asker' => $asker,
                        'document_id' => $id,
                        'ref' => Document::refOf($id),
                        'gone_at' => $now,
                    ],
                    $chunk,
                ),
                ['asker', 'document_id'],
                ['gone_at'],
            );
        }
    }

    /**
     * The next that changed behind a moment and a number, in the order of both: of those seen, and of those gone.
     *
     * @return list<array{id: int, stamp: string, gone: bool}> no more than asked for; fewer where there are no more
     */
    public function next(string $asker, DocumentSet $wanted, string $from, string $until, string $stamp, int $number, int $most): array
    {
        $found = $this->changed($wanted, $from, $until, $stamp, $number, $most);
        $gone = DB::table('harvest_gone')
            ->where('asker', $asker)
            ->where('gone_at', '>=', $from)
            ->where('gone_at', '<=', $until)
            ->whereRaw('(gone_at, document_id) > (?, ?)', [$stamp, $number])
            ->orderBy('gone_at')
            ->orderBy('document_id')
            ->limit($most)
            ->get(['document_id', 'gone_at']);
        foreach ($gone as $row) {
            $found[] = ['id' => (int) $row->document_id, 'stamp' => (string) $row->gone_at, 'gone' => true];
        }
        usort($found, static fn (array $a, array $b): int => [$a['stamp'], $a['id']] <=> [$b['stamp'], $b['id']]);

        return array_slice($found, 0, $most);
    }

    /** @return list<array{id: int, stamp: string, gone: bool}> */
    private function changed(DocumentSet $wanted, string $from, string $until, string $stamp, int $number, int $most): array
    {
        $found = [];
        $piece = $most * 4;
        do {
            $rows = DB::table('document_changes')
                ->where('changed_at', '>=', $from)
                ->where('changed_at', '<=', $until)
                ->whereRaw('(changed_at, document_id) > (?, ?)', [$stamp, $number])
                ->orderBy('changed_at')
                ->orderBy('document_id')
                ->limit($piece)
                ->get();
            foreach ($rows as $row) {
                [$stamp, $number] = [(string) $row->changed_at, (int) $row->document_id];
                if ($wanted->has($number)) {
                    $found[] = ['id' => $number, 'stamp' => $stamp, 'gone' => false];
                    if (count($found) === $most) {
                        return $found;
                    }
                }
            }
        } while (count($rows) === $piece);

        return $found;
    }

    /** @return string|null when a document changed last, where that was noted */
    public function stamp(int $id): ?string
    {
        $at = DB::table('document_changes')->where('document_id', $id)->value('changed_at');

        return $at === null ? null : (string) $at;
    }

    /** @return string|null when a document went out of somebody’s sight */
    public function goneAt(string $asker, int $id): ?string
    {
        $at = DB::table('harvest_gone')->where('asker', $asker)->where('document_id', $id)->value('gone_at');

        return $at === null ? null : (string) $at;
    }

    public static function earliest(): string
    {
        return (string) (DB::table('document_changes')->min('changed_at') ?? self::now());
    }
}
