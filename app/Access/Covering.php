<?php

declare(strict_types=1);

namespace App\Access;

use App\History\Act;
use App\History\History;
use App\Models\Document;
use App\Models\Hold;
use App\Models\User;
use Illuminate\Support\Facades\DB;

/** Documents that come under a hold or leave it, and their history that says so. */
final class Covering
{
    private const CHUNK = 500;

    /**
     * Covers documents. Call it in a transaction.
     *
     * @param  list<int>  $ids  that the hold does not cover yet
     * @param  User|null  $chooser  who chose them; null for the search
     */
    public static function take(Hold $hold, array $ids, ?User $chooser): void
    {
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            DB::table('hold_items')->insert(
                array_map(
                    static fn (int $id): array => [
                        'hold_id' => $hold->id,
                        'document_id' => $id,
                        'why' => $chooser === null ? Hold::FOUND : Hold::CHOSEN,
                        'by' => $chooser?->id,
                        'at' => now(),
                    ],
                    $chunk,
                ),
            );
        }
        self::record($hold, Act::Held, $chooser ?? $hold->owner, $ids);
    }

    /**
     * Says in the history of documents that they are held, or released.
     *
     * @param  list<int>  $ids
     */
    public static function record(Hold $hold, Act $act, User $by, array $ids): void
    {
        $reason = $act === Act::Held ? $hold->reason : (string) $hold->end_reason;
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            foreach (Document::query()->whereIntegerInRaw('id', $chunk)->get(['id', 'library_id']) as $document) {
                History::record($act, $by, $document, ['hold' => $hold->name, 'reason' => $reason]);
            }
        }
    }
}
