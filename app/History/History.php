<?php

declare(strict_types=1);

namespace App\History;

use App\Models\Document;
use App\Models\User;
use Illuminate\Support\Facades\DB;

/**
 * What was done, by whom and to what, kept append-only: the hash of each entry covers the hash of the one before it, so
 * that an entry changed, taken out or put in breaks the chain from there on (see `brenvic:history:verify`).
 */
final class History
{
    private const START = 'brenvic';

    /**
     * @param  array<string, mixed>  $detail
     */
    public static function record(Act $act, ?User $by, ?Document $document = null, array $detail = []): void
    {
        DB::transaction(static function () use ($act, $by, $document, $detail): void {
            $entry = [
                'at' => now()->utc()->format('Y-m-d\TH:i:s\Z'),
                'user_id' => $by?->id,
                'act' => $act->value,
                'document_id' => $document?->id,
                'detail' => json_encode((object) $detail, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR),
            ];
            $before = (string) (DB::table('history')->orderByDesc('id')->value('hash') ?? self::START);
            $hash = self::hash($before, $entry);
            HistoryEnd::note((int) DB::table('history')->insertGetId([...$entry, 'hash' => $hash]), $hash);
        });
    }

    /** Records that somebody opened a document; once an hour is enough. */
    public static function viewed(User $by, Document $document): void
    {
        $since = now()->utc()->subHour()->format('Y-m-d\TH:i:s\Z');
        $known = DB::table('history')
            ->where('document_id', $document->id)
            ->where('user_id', $by->id)
            ->where('act', Act::Viewed->value)
            ->where('at', '>', $since)
            ->exists();
        if (! $known) {
            self::record(Act::Viewed, $by, $document);
        }
    }

    /**
     * Checks the whole chain.
     *
     * @return array{entries: int, broken: int|null, cut: int|null} how many there are, the number of the first that does not
     *   fit, and the number of the last that was noted, if it is there no more
     */
    public static function verify(): array
    {
        $before = self::START;
        $entries = 0;
        foreach (DB::table('history')->orderBy('id')->lazy(1_000) as $row) {
            $entry = [
                'at' => $row->at,
                'user_id' => $row->user_id,
                'act' => $row->act,
                'document_id' => $row->document_id,
                'detail' => $row->detail,
            ];
            if (self::hash($before, $entry) !== $row->hash) {
                return ['entries' => $entries, 'broken' => (int) $row->id, 'cut' => null];
            }
            $before = (string) $row->hash;
            $entries++;
        }

        $end = HistoryEnd::read();
        $isThere = $end === null ? $entries === 0 : DB::table('history')->where('id', $end[0])->where('hash', $end[1])->exists();

        return ['entries' => $entries, 'broken' => null, 'cut' => $isThere ? null : $end[0] ?? 0];
    }

    /** @param  array<string, mixed>  $entry */
    private static function hash(string $before, array $entry): string
    {
        return hash('sha256', $before."\n".implode("\n", array_map(strval(...), $entry)));
    }
}
