<?php

declare(strict_types=1);

namespace App\Webhooks;

use App\Access\HistoryRights;
use App\Models\Document;
use App\Models\User;
use App\Models\Webhook;
use App\Served\Changes;
use App\Support\Address;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * What a program is told, and what it is not. It is told of documents that its person sees when it is told; of what was removed if it
 * was in the sight of the person before, and of this nothing but the reference. Who did it, and what was done, it reads where it may.
 */
final readonly class Telling
{
    /** Entries of the history that are looked through at a time. */
    private const PIECE = 200;

    public function __construct(private Changes $changes, private HistoryRights $histories)
    {
    }

    /** From now on it is known what somebody sees, and so what goes out of their sight. */
    public function begin(User $user): int
    {
        $last = self::last();
        $this->changes->seen($user);

        return $last;
    }

    private static function last(): int
    {
        return (int) DB::table('history')->max('id');
    }

    /** Whether anything happened that it may have to be told of. What it needs not be told of is left behind. */
    public static function isBehind(Webhook $webhook): bool
    {
        return self::last() > $webhook->told_to;
    }

    /**
     * The next that it is told of, in the order in which it happened.
     *
     * @return array{told: list<array{entry: int, body: array<string, mixed>}>, to: int} and the entry that is come to with these
     */
    public function next(Webhook $webhook): array
    {
        $last = self::last();
        $acts = array_merge(...array_map(static fn (string $kind): array => Happening::from($kind)->acts(), $webhook->kinds));
        $entries = DB::table('history')
            ->where('id', '>', $webhook->told_to)
            ->where('id', '<=', $last)
            ->whereIn('act', array_column($acts, 'value'))
            ->whereNotNull('document_id')
            ->orderBy('id')
            ->limit(self::PIECE)
            ->get(['id', 'at', 'act', 'document_id']);
        $to = $entries->count() === self::PIECE ? (int) $entries->last()?->id : $last;

        return ['told' => $entries->isEmpty() ? [] : $this->told($webhook->user, $entries), 'to' => $to];
    }

    /**
     * @param  Collection<int, stdClass>  $entries
     * @return list<array{entry: int, body: array<string, mixed>}>
     */
    private function told(User $user, Collection $entries): array
    {
        $sight = $this->changes->seen($user);
        $ids = array_values(array_unique(array_map(intval(...), $entries->pluck('document_id')->all())));
        $documents = Document::query()
            ->with(['library', 'type'])
            ->whereIntegerInRaw('id', array_values(array_filter($ids, $sight->has(...))))
            ->get()
            ->keyBy('id');
        $readable = array_flip($this->histories->readable($user, $documents));
        $asker = $this->changes->asker($user);
        $told = [];
        foreach ($entries as $entry) {
            $kind = Happening::of((string) $entry->act);
            $id = (int) $entry->document_id;
            $document = $documents->get($id);
            $of = match (true) {
                $kind === null => null,
                $kind === Happening::Removed => $this->changes->goneAt($asker, $id) >= (string) $entry->at
                    ? ['ref' => Document::refOf($id)]
                    : null,
                $document === null, $kind->isHistory() && ! isset($readable[$id]) => null,
                default => [
                    'ref' => $document->ref,
                    'title' => $document->title,
                    'address' => Address::of("/documents/{$document->ref}"),
                    'api' => Address::of("/api/v1/documents/{$document->ref}"),
                ],
            };
            if ($of !== null) {
                $told[] = [
                    'entry' => (int) $entry->id,
                    'body' => ['id' => (int) $entry->id, 'at' => (string) $entry->at, 'kind' => $kind->value, 'document' => $of],
                ];
            }
        }

        return $told;
    }
}
