<?php

declare(strict_types=1);

namespace App\Access;

use App\Support\Column;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** Which documents are on hold, and why: those of pull lists that somebody holds. */
final class Holds
{
    /** @return list<string> the reasons why a document is on hold */
    public static function on(int $document): array
    {
        return Column::texts(self::held([$document])->pluck('hold_reason'));
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, string> a reason, of those that are on hold
     */
    public static function of(array $documents): array
    {
        return self::held($documents)->pluck('hold_reason', 'document_id')->all();
    }

    /** @param  list<int>  $documents */
    private static function held(array $documents): Builder
    {
        return DB::table('pull_list_items')->join('pull_lists', 'pull_lists.id', '=', 'pull_list_id')
            ->whereIntegerInRaw('document_id', $documents)->whereNotNull('held_at')->whereNull('deleted_at');
    }
}
