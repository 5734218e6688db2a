<?php

declare(strict_types=1);

namespace App\Index;

use App\Models\Document;
use App\Support\Column;
use Illuminate\Support\Facades\DB;

/**
 * Makes the index anew beside the one that is searched, a piece a transaction. Documents that change meanwhile are
 * changed in both (see Indexer). A rebuild that was interrupted goes on where it was.
 */
final readonly class Rebuild
{
    /** @param  int  $piece  documents a transaction */
    public function __construct(
        private Indexer $indexer,
        private int $piece = 500,
    ) {
    }

    /** @param  callable(int $done, int $all): void  $progress  called after each piece */
    public function run(callable $progress): void
    {
        $state = IndexState::read();
        if ($state->building === null) {
            $state = DB::transaction(function (): IndexState {
                $state = IndexState::begin();
                (new SqliteStore($state->building))->clear();

                return $state;
            });
        }
        $all = $this->documents(0)->count();
        $done = $all - $this->documents($state->reached)->count();
        $progress($done, $all);
        while (($piece = $this->piece()) > 0) {
            $done += $piece;
            $progress($done, $all);
        }
        $old = $state->live;
        DB::transaction(static function () use ($old): void {
            IndexState::finish();
            (new SqliteStore($old))->clear();
        });
    }

    /** Stops a rebuild and forgets what it made. */
    public function cancel(): void
    {
        DB::transaction(static function (): void {
            $building = IndexState::read()->building;
            if ($building !== null) {
                IndexState::cancel();
                (new SqliteStore($building))->clear();
            }
        });
    }

    private function piece(): int
    {
        return DB::transaction(function (): int {
            $state = IndexState::read();
            $ids = Column::numbers($this->documents($state->reached)->orderBy('id')->limit($this->piece)->pluck('id'));
            if ($ids !== [] && $state->building !== null) {
                $this->indexer->fill(new SqliteStore($state->building), $ids);
                IndexState::reach((int) end($ids));
            }

            return count($ids);
        });
    }

    /** @return \Illuminate\Database\Eloquent\Builder<Document> */
    private function documents(int $after): \Illuminate\Database\Eloquent\Builder
    {
        return Document::query()->where('state', Document::FILED)->where('id', '>', $after);
    }
}
