<?php

declare(strict_types=1);

namespace App\Destroying;

use App\Access\Rights;
use App\Access\Withheld;
use App\Catalog\Catalog;
use App\Copies\TextPrints;
use App\Files\FileStore;
use App\History\Act;
use App\History\Entry;
use App\History\History;
use App\Index\Indexer;
use App\Models\CheckOut;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\Rendition;
use App\Models\User;
use App\Models\Version;
use App\Support\Column;
use Brenvic\Core\Capture\FileKind;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/**
 * Destroys documents: their files, texts, versions, copies, index entries and what was noted of them anywhere. Nothing of
 * them is left but their entry in the history and, where one is asked for, a stub with the values that the office chooses.
 *
 * It is done in a transaction, whole or not at all; files go after the rows that name them.
 */
final class Destroyer
{
    /** @var list<string> SHA-256 of files that nothing may need any more */
    private array $files = [];

    /** @var list<string> paths of deliveries that had one of the documents */
    private array $deliveries = [];

    public function __construct(
        private readonly Catalog $catalog,
        private readonly Indexer $indexer,
        private readonly FileStore $store,
        private readonly Rights $rights,
    ) {
    }

    /**
     * Destroys one document. Call it in a transaction, with what is attached to a document before the document, and `clear`
     * after the transaction.
     *
     * @param  array<string, mixed>  $why  what the history says beside its reference and SHA-256
     */
    public function destroy(Document $document, ?User $by, array $why, ?Stub $stub): Entry
    {
        $rules = $this->rights->withholding([$document->id])[$document->id] ?? [];
        $left = $stub === null ? null : $this->left($document, $stub->under($rules, $this->catalog));
        // Before its end is written down, which stays.
        History::forget($document->id);
        $entry = History::record(Act::Destroyed, $by, $document, [
            ...$why,
            'ref' => $document->ref,
            'sha256' => $document->sha256,
            ...Withheld::noted([...array_keys($rules), ...Withheld::of($document)]),
        ]);
        $this->gather($document);
        $this->strike($document);
        TextPrints::forget($document->id);
        $document->forceDelete();
        $left === null || $this->leave($document->id, $left);
        $this->indexer->update([$document->id]);
        // Whoever was not to see the document is not to see what is left of it: where that cannot be told any more, nothing is left.
        if ($left !== null && array_diff_key($rules, $this->rights->withholding([$document->id])[$document->id] ?? []) !== []) {
            Document::query()->whereKey($document->id)->forceDelete();
            $this->indexer->update([$document->id]);
        }

        return $entry;
    }

    /** Takes the files away, once the rows are gone for good. A file that another document has too stays. */
    public function clear(): void
    {
        foreach (array_unique($this->files) as $sha256) {
            $this->store->remove($sha256);
        }
        File::delete(array_unique($this->deliveries));
        $this->files = $this->deliveries = [];
    }

    /** Empties the journal of the database, in which pages from before may stand. Readers may keep it from being done now. */
    public static function emptyJournal(): bool
    {
        if (DB::transactionLevel() > 0) {
            return false;
        }
        try {
            return (int) (DB::selectOne('PRAGMA wal_checkpoint(TRUNCATE)')->busy ?? 1) === 0;
        } catch (QueryException) {
            // Somebody writes: the pages go when the journal is next begun anew.
            return false;
        }
    }

    /** Notes which files may go: those of the document, its versions, copies put by, renditions and scans. */
    private function gather(Document $document): void
    {
        $id = $document->id;
        array_push(
            $this->files,
            $document->sha256,
            ...Column::texts(Version::query()->where('document_id', $id)->pluck('sha256')),
            ...Column::texts(CheckOut::query()->where('document_id', $id)->whereNotNull('sha256')->pluck('sha256')),
            ...Column::texts(Rendition::query()->where('document_id', $id)->whereNotNull('sha256')->pluck('sha256')),
            ...Column::texts(
                DB::table('scan_pages')->join('scans', 'scans.id', '=', 'scan_id')->where('document_id', $id)->pluck('sha256'),
            ),
        );
    }

    /** Takes away what other rows say of it, which do not go with it by themselves. */
    private function strike(Document $document): void
    {
        $id = $document->id;
        DB::table('scan_pages')->whereIn('scan_id', DB::table('scans')->where('document_id', $id)->select('id'))->delete();
        DB::table('bringing_rows')->where('document_id', $id)->update(['source' => '', 'note' => '', 'sheet' => null, 'before' => null]);
        DB::table('secure_links')->where('document_id', $id)->delete();
        foreach (DB::table('document_acts')->whereLike('items', "%\"id\":{$id},%")->get(['id', 'items']) as $act) {
            $items = array_map(
                static fn (array $item): array => ($item['id'] ?? null) === $id ? [...$item, 'before' => null] : $item,
                (array) json_decode((string) $act->items, true),
            );
            DB::table('document_acts')
                ->where('id', $act->id)
                ->update(['items' => json_encode($items, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR)]);
        }
        $this->strikeFromDeliveries($document->ref);
    }

    /** A delivery that has it can be downloaded no more. What else was in it can be delivered again. */
    private function strikeFromDeliveries(string $ref): void
    {
        $ids = Column::numbers(DB::table('delivery_items')->where('ref', $ref)->distinct()->pluck('delivery_id'));
        foreach (Delivery::query()->findMany($ids) as $delivery) {
            if ($delivery->file !== null) {
                $this->deliveries[] = Delivery::folder()."/{$delivery->file}";
            }
            $delivery->update([
                'state' => Delivery::EXPIRED,
                'file' => null,
                'expires_at' => now(),
                'message' => 'A document in it was destroyed.',
            ]);
        }
        DB::table('delivery_items')->where('ref', $ref)->delete();
    }

    /** @return array{row: array<string, mixed>, values: list<array<string, mixed>>, dossiers: list<array<string, mixed>>} */
    private function left(Document $document, Stub $stub): array
    {
        $fields = array_values(array_intersect_key($this->catalog->fieldIds(), array_flip($stub->fields)));
        $rows = static fn (string $table, array $columns) => DB::table($table)->where('document_id', $document->id)->get($columns);
        [$empty] = $this->store->takeContents('');

        return [
            'row' => [
                'id' => $document->id,
                'ref' => $document->ref,
                'library_id' => $document->library_id,
                'document_type_id' => $document->document_type_id,
                'title' => $stub->title ? $document->title : ($this->catalog->types()->get((int) $document->document_type_id)->name ?? 'Document'),
                'file_name' => '',
                'file_kind' => FileKind::Other->value,
                'sha256' => $empty,
                'bytes' => 0,
                'state' => Document::FILED,
                'text_state' => Document::TEXT_DESTROYED,
                'text_reason' => 'The document was destroyed.',
                'created_by' => $document->created_by,
                'filed_at' => $document->filed_at,
                'created_at' => $document->created_at,
                'updated_at' => now(),
                'lock_version' => $document->lock_version + 1,
                'destroyed_at' => now(),
            ],
            'values' => array_values(
                $rows('document_values', ['document_id', 'field_id', 'position', 'value'])
                    ->whereIn('field_id', $fields)
                    ->map(static fn (object $row): array => (array) $row)
                    ->all(),
            ),
            'dossiers' => array_values(
                $rows('document_dossier', ['document_id', 'dossier_id', 'dossier_section_id'])->map(static fn (object $row): array => (array) $row)->all(),
            ),
        ];
    }

    /** @param  array{row: array<string, mixed>, values: list<array<string, mixed>>, dossiers: list<array<string, mixed>>}  $left */
    private function leave(int $id, array $left): void
    {
        DB::table('documents')->insert($left['row']);
        DB::table('document_values')->insert($left['values']);
        DB::table('document_dossier')->insert($left['dossiers']);
    }
}
