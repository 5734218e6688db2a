<?php

declare(strict_types=1);

namespace App\History;

use App\Models\Document;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * What was done, by whom and to what, kept append-only: the hash of each entry covers the hash of the one before it, so
 * that an entry changed, taken out or put in breaks the chain from there on (see `brenvic:history:verify`). It covers what an
 * entry says by its SHA-256, so that this can be taken away with a document that is destroyed.
 */
final class History
{
    private const START = 'brenvic';

    /**
     * @param  array<string, mixed>  $detail
     */
    public static function record(Act $act, ?User $by, ?Document $document = null, array $detail = []): Entry
    {
        return DB::transaction(static function () use ($act, $by, $document, $detail): Entry {
            $entry = [
                'at' => now()->utc()->format('Y-m-d\TH:i:s\Z'),
                'user_id' => $by?->id,
                'act' => $act->value,
                'document_id' => $document?->id,
                'detail' => json_encode((object) $detail, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR),
            ];
            $before = (string) (DB::table('history')->orderByDesc('id')->value('hash') ?? self::START);
            $sum = hash('sha256', $entry['detail']);
            $hash = self::hash($before, self::covered($entry, $sum));
            $place = ['library_id' => $document->library_id ?? ($document === null ? null : self::libraryOf($document->id))];
            $id = (int) DB::table('history')->insertGetId([...$entry, ...$place, 'detail_sum' => $sum, 'hash' => $hash]);
            HistoryEnd::note($id, $hash);

            return new Entry($id, $hash);
        });
    }

    /**
     * Takes what entries about a document say of it away, and leaves who did what to it and when. The chain holds: it is made of
     * the sums of what they said. Entries from before there were such sums keep what they say.
     */
    public static function forget(int $document): void
    {
        DB::table('history')
            ->where('document_id', $document)
            ->whereNotNull('detail_sum')
            ->where('detail', '!=', '{}')
            ->update(['detail' => '']);
    }

    /** Records that somebody opened a document; once an hour is enough. */
    public static function viewed(User $by, Document $document): void
    {
        if (! Readers::now()->areRecorded) {
            return;
        }
        $since = now()->utc()->subHour()->format('Y-m-d\TH:i:s\Z');
        $known = DB::table('history')
            ->where('document_id', $document->id)
            ->where('user_id', $by->id)
            ->where('act', Act::Viewed->value)
            ->where('at', '>', $since)
            ->exists();
        if (! $known) {
            // Who it was is said where it can be forgotten, with something that nobody can guess.
            self::record(Act::Viewed, $by, $document, ['by' => $by->id, 'salt' => bin2hex(random_bytes(16))]);
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
            $isWhole = $row->detail_sum === null || self::isWhole($row);
            $covered = $row->detail_sum === null ? $entry : self::covered($entry, (string) $row->detail_sum);
            if (! $isWhole || self::hash($before, $covered) !== $row->hash) {
                return ['entries' => $entries, 'broken' => (int) $row->id, 'cut' => null];
            }
            $before = (string) $row->hash;
            $entries++;
        }

        $end = HistoryEnd::read();
        $isThere = $end === null ? $entries === 0 : DB::table('history')->where('id', $end[0])->where('hash', $end[1])->exists();

        return ['entries' => $entries, 'broken' => null, 'cut' => $isThere ? null : $end[0] ?? 0];
    }

    /** Whether an entry says what it said, or says nothing more since its document is destroyed. */
    private static function isWhole(stdClass $row): bool
    {
        if ($row->act === Act::Viewed->value) {
            $by = json_decode((string) $row->detail, true)['by'] ?? null;

            // Of who read it nothing may be left; what is left has to be as it was.
            return $row->detail === ''
                ? $row->user_id === null
                : $by === $row->user_id && hash('sha256', (string) $row->detail) === $row->detail_sum;
        }

        return $row->detail === ''
            ? DB::table('history')->where('document_id', $row->document_id)->where('act', Act::Destroyed->value)->where('id', '>', $row->id)->exists()
            : hash('sha256', (string) $row->detail) === $row->detail_sum;
    }

    /**
     * What the hash of an entry covers: the sum of what it says, and who did it, but for readers, whom the sum covers.
     *
     * @param  array<string, mixed>  $entry
     * @return array<string, mixed>
     */
    private static function covered(array $entry, string $sum): array
    {
        return [...$entry, 'detail' => $sum, ...$entry['act'] === Act::Viewed->value ? ['user_id' => null] : []];
    }

    private static function libraryOf(int $document): ?int
    {
        $library = DB::table('documents')->where('id', $document)->value('library_id');

        return $library === null ? null : (int) $library;
    }

    /** @param  array<string, mixed>  $entry */
    private static function hash(string $before, array $entry): string
    {
        return hash('sha256', $before."\n".implode("\n", array_map(strval(...), $entry)));
    }
}
