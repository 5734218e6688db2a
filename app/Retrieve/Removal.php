<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Access\Change;
use App\Access\Changing;
use App\Access\Rights;
use App\Destroying\Destroyer;
use App\History\Act;
use App\History\DocumentActKind;
use App\History\DocumentActLog;
use App\History\History;
use App\Index\Indexer;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\User;
use App\Retention\KeptFacts;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Two different acts: removing takes filed documents out of everybody's sight and can be taken back; destroying takes what
 * was removed away for good, and leaves its history.
 */
final readonly class Removal
{
    public function __construct(
        private Rights $rights,
        private Changing $changing,
        private Filing $filing,
        private Indexer $indexer,
        private Destroyer $destroyer,
        private KeptFacts $kept,
    ) {
    }

    /**
     * Removes documents with what is attached to them: all of them, or none when one is held.
     *
     * @param  list<string>  $refs
     * @return array{act: int, removed: list<string>} the act, and references of those that were removed, without their attachments
     *
     * @throws Refused
     */
    public function remove(User $by, array $refs, string $reason): array
    {
        return DB::transaction(function () use ($by, $refs, $reason): array {
            $found = Document::query()->whereIn('ref', $refs)->where('state', Document::FILED)->get();
            $documents = $found->only($this->rights->seen($by, Column::numbers($found->modelKeys())));
            $all = [];
            foreach ($documents as $document) {
                $all[$document->id] = $document;
                foreach ($this->filing->below($document->id) as $attachment) {
                    $all[$attachment->id] = $attachment;
                }
            }
            foreach ($this->changing->hindrances($by, array_keys($all), Change::Presence) as $id => $hindrance) {
                throw new Refused("“{$all[$id]->title}”: {$hindrance->words} Nothing was removed.");
            }
            $withheld = $this->rights->withholding(array_keys($all));
            foreach ($all as $document) {
                $rules = array_keys($withheld[$document->id] ?? []);
                $document->update(['withheld_by' => $rules === [] ? null : $rules]);
                $document->delete();
                History::record(Act::Removed, $by, $document, ['reason' => $reason]);
            }
            $this->indexer->update(array_keys($all));

            $items = array_values(
                $documents->map(static fn (Document $d): array => ['id' => $d->id, 'lock' => $d->lock_version, 'before' => null])->all(),
            );

            return [
                'act' => DocumentActLog::keep($by, DocumentActKind::Remove, "Removed from view: {$reason}", $items),
                'removed' => Column::texts($documents->pluck('ref')),
            ];
        });
    }

    /** @return Builder<Document> what was removed, in libraries that a person may enter, and that no access rule kept from them */
    public function removed(User $user): Builder
    {
        return Document::query()
            ->withTrashed()
            ->whereNotNull('deleted_at')
            ->where('state', Document::FILED)
            ->whereIn('library_id', array_keys($user->libraryRights()))
            ->when($this->rights->rulesAgainst($user), static fn (Builder $of, array $rules) => $of->where(
                static function (Builder $of) use ($rules): void {
                    $of->whereNull('withheld_by')->orWhere(static function (Builder $of) use ($rules): void {
                        foreach ($rules as $rule) {
                            $of->whereJsonDoesntContain('withheld_by', $rule);
                        }
                    });
                },
            ));
    }

    /**
     * @param  list<string>  $refs
     * @return int how many came back, with their attachments
     */
    public function restore(User $by, array $refs): int
    {
        return DB::transaction(function () use ($by, $refs): int {
            $documents = $this->withAttached($by, $refs);
            foreach ($documents as $document) {
                $document->restore();
                History::record(Act::Restored, $by, $document);
            }
            $this->indexer->update(array_keys($documents));

            return count($documents);
        });
    }

    /**
     * Takes away rows, text and files of what was removed. A file that another document has too stays.
     *
     * @param  list<string>  $refs
     * @return int how many are gone, with their attachments
     *
     * @throws Refused
     */
    public function destroy(User $by, array $refs, string $reason): int
    {
        $count = DB::transaction(function () use ($by, $refs, $reason): int {
            $documents = $this->withAttached($by, $refs);
            foreach ($this->changing->hindrances($by, array_keys($documents), Change::Presence) as $id => $hindrance) {
                throw new Refused("“{$documents[$id]->title}”: {$hindrance->words} Nothing was destroyed.");
            }
            $today = KeptFacts::today();
            foreach ($this->kept->keepings(array_keys($documents)) as $id => $keeping) {
                if ($keeping->state->keeps() && ! $keeping->isDue($today)) {
                    throw new Refused("“{$documents[$id]->title}” has to be kept {$keeping->reason}. Nothing was destroyed.");
                }
            }
            // Attachments before what they are attached to.
            foreach (array_reverse($documents, true) as $document) {
                $this->destroyer->destroy($document, $by, ['reason' => $reason], null);
            }

            return count($documents);
        });
        $this->destroyer->clear();
        Destroyer::emptyJournal();

        return $count;
    }

    /**
     * @param  list<string>  $refs
     * @return array<int, Document> by id, each before what is attached to it
     */
    private function withAttached(User $by, array $refs): array
    {
        $all = [];
        $level = $this->removed($by)->whereIn('ref', $refs)->get();
        while ($level->isNotEmpty()) {
            foreach ($level as $document) {
                $all[$document->id] = $document;
            }
            $level = Document::onlyTrashed()->whereIn('parent_id', $level->modelKeys())->get();
        }

        return $all;
    }
}
