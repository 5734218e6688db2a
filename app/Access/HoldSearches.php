<?php

declare(strict_types=1);

namespace App\Access;

use App\Catalog\Catalog;
use App\Models\Hold;
use App\Support\Column;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Support\Facades\DB;

/**
 * Covers what the searches of holds find, whoever may see it: a hold is the office's. What was covered once stays so, though
 * the search may not find it any more.
 */
final readonly class HoldSearches
{
    public function __construct(private Rights $rights, private Catalog $catalog)
    {
    }

    /** Some documents changed, within the transaction that changed them. @return int how many holds have to be looked at */
    public static function changed(): int
    {
        return DB::table('holds')->whereNull('ended_at')->whereNotNull('search')->where('wants_look', false)->update(['wants_look' => true]);
    }

    /** @return bool whether there was something to look at */
    public function catchUp(): bool
    {
        $holds = Hold::query()->with('owner')->where('wants_look', true)->get();
        foreach ($holds as $hold) {
            DB::transaction(function () use ($hold): void {
                $hold->update(['wants_look' => false]);
                $hold->ended_at === null && $this->cover($hold);
            });
        }

        return $holds->isNotEmpty();
    }

    /** @return int how many documents are newly covered */
    private function cover(Hold $hold): int
    {
        if ($hold->search === null) {
            return 0;
        }
        $node = $hold->search->read($this->catalog->fullSchema())->ledger()->tree();
        $covered = DocumentSet::of(Column::numbers(DB::table('hold_items')->where('hold_id', $hold->id)->orderBy('document_id')->pluck('document_id')));
        $fresh = $this->rights->allFound($node)->minus($covered)->documents();
        Covering::take($hold, $fresh, null);

        return count($fresh);
    }
}
