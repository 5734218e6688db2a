<?php

declare(strict_types=1);

namespace App\Access;

use App\Models\Hold;
use App\Support\Column;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Which documents are on hold, and why: chosen ones, those of pull lists, and those that searches have found. A document that
 * is covered twice stays covered when one hold ends.
 */
final class Holds
{
    /** @return list<string> the reasons why a document is on hold */
    public static function on(int $document): array
    {
        self::catchUp();

        return Column::texts(DB::query()->fromSub(self::covered([$document]), 'covered')->orderBy('hold')->pluck('reason'));
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, string> a reason, of those that are on hold
     */
    public static function of(array $documents): array
    {
        self::catchUp();

        return DB::query()->fromSub(self::covered($documents), 'covered')->pluck('reason', 'document_id')->all();
    }

    /**
     * All that holds cover today, each document once a hold.
     *
     * @param  list<int>|null  $documents  among which; null for all
     * @return Builder with `document_id`, `hold`, `reason`
     */
    public static function covered(?array $documents = null): Builder
    {
        $inForce = Hold::inForce()->select(['id', 'reason', 'pull_list_id'])->toBase();
        $items = DB::table('hold_items')
            ->joinSub($inForce, 'holds', 'holds.id', '=', 'hold_id')
            ->when($documents !== null, static fn (Builder $q) => $q->whereIntegerInRaw('document_id', $documents ?? []))
            ->select(['document_id', 'holds.id as hold', 'holds.reason']);

        return $items->union(
            DB::table('pull_list_items')
                ->joinSub($inForce, 'holds', 'holds.pull_list_id', '=', 'pull_list_items.pull_list_id')
                ->when($documents !== null, static fn (Builder $q) => $q->whereIntegerInRaw('document_id', $documents ?? []))
                ->select(['document_id', 'holds.id as hold', 'holds.reason']),
        );
    }

    /** What came in since a search was last asked is covered before anybody is told that it is not. */
    private static function catchUp(): void
    {
        if (DB::table('holds')->where('wants_look', true)->exists()) {
            app(HoldSearches::class)->catchUp();
        }
    }
}
