<?php

declare(strict_types=1);

namespace App\Index;

use App\Catalog\Catalog;
use App\Files\FileTitle;
use App\Models\Document;
use App\Reading\Mentions;
use App\Retention\KeptFacts;
use App\Support\Column;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Procedures\Record\Status;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Brenvic\Core\Search\Filing\KeepingEntries;
use Brenvic\Core\Search\Filing\Standing;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** Keeps the index true to the tables. Call it in the transaction that changes the documents. */
final readonly class Indexer
{
    public function __construct(private Catalog $catalog, private Mentions $mentions, private KeptFacts $kept)
    {
    }

    /**
     * Brings the index entries of some documents up to date, whatever happened to them.
     *
     * @param  list<int>  $ids
     */
    public function update(array $ids): void
    {
        $ids = [...$ids, ...$this->kept->supersededBy($ids)];
        $this->mentions->read($ids, static fn (): array => RedactedTexts::of($ids));
        $state = IndexState::read();
        $this->fill(new SqliteStore($state->live), $ids);
        if ($state->building !== null) {
            $this->fill(
                new SqliteStore($state->building),
                array_values(array_filter($ids, static fn (int $id): bool => $id <= $state->reached)),
            );
        }
        $ids === [] || event(new DocumentsChanged($ids));
    }

    /**
     * The same for one set of tables.
     *
     * @param  list<int>  $ids
     */
    public function fill(SqliteStore $store, array $ids): void
    {
        $writer = new IndexWriter($store);
        foreach (array_chunk($ids, 200) as $chunk) {
            $indexed = $this->documents($chunk);
            $writer->put(array_values($indexed));
            foreach (array_diff($chunk, array_keys($indexed)) as $gone) {
                $writer->remove($gone);
            }
            $writer->flush();
        }
    }

    /**
     * Documents as the index sees them.
     *
     * @param  list<int>  $ids
     * @return array<int, IndexedDocument> by id, without those that are not filed
     */
    public function documents(array $ids): array
    {
        $documents = Document::query()->with('creator')->where('state', Document::FILED)->findMany($ids);
        [$texts, $pieces] = $this->texts($documents);
        $keys = Column::numbers($documents->modelKeys());
        $redacted = RedactedTexts::joined($keys, $pieces);
        $values = self::values($keys);
        $dossiers = self::dossiers($keys);
        $standings = self::standings($keys);
        $keepings = $this->kept->keepings($keys);
        $comments = [];
        foreach (
            DB::table('comments')
                ->whereIntegerInRaw('document_id', $documents->modelKeys())
                ->whereNull('deleted_at')
                ->orderBy('id')
                ->get(['document_id', 'text']) as $comment
        ) {
            $comments[(int) $comment->document_id][] = (string) $comment->text;
        }
        $earlier = $this->earlier($documents);
        $fields = $this->catalog->fields();
        $indexed = [];
        foreach ($documents as $document) {
            $library = $this->catalog->libraries()->get($document->library_id);
            $type = $this->catalog->types()->get((int) $document->document_type_id);
            $indexed[$document->id] = DocumentEntries::of(
                new FiledDocument(
                    $document->id,
                    $document->title,
                    $texts[$document->id] ?? '',
                    $library->code ?? '',
                    $this->byCode($values[$document->id] ?? []),
                    $document->file_name,
                    $document->ref,
                    $document->path,
                    $redacted[$document->id] ?? null,
                    $library?->repository->code ?? '',
                    $type?->code,
                    $type->name ?? '',
                    $document->file_kind,
                    $document->text_state,
                    $document->parent_id !== null,
                    $document->page_count,
                    $document->creator?->name,
                    $document->filed_at?->format('Y-m-d'),
                    $dossiers[$document->id] ?? [],
                    $comments[$document->id] ?? [],
                    $earlier[$document->id] ?? [],
                    $document->language(),
                    $standings[$document->id] ?? [],
                    $keepings[$document->id] ?? null,
                    $document->file_name !== '' && $document->title === FileTitle::of($document->file_name),
                    $document->ocr_confidence,
                ),
                $fields,
            );
        }

        return $indexed;
    }

    /**
     * Brings what the index knows of how long documents are kept up to date, and nothing else of them.
     *
     * @param  list<int>  $ids
     */
    public function retention(array $ids): void
    {
        $changes = array_map(KeepingEntries::of(...), $this->kept->keepings($ids));
        $state = IndexState::read();
        foreach (array_filter([$state->live, $state->building], is_int(...)) as $tables) {
            $writer = new IndexWriter(new SqliteStore($tables));
            $writer->putValues(KeepingEntries::FIELDS, $changes, KeepingEntries::FIELDS);
            $writer->flush();
        }
        $ids === [] || event(new DocumentsChanged($ids));
    }

    /** @return array<string, list<string>> what one document has in its fields, values of its dossiers among it: normal forms by field code */
    public function valuesOf(int $document): array
    {
        return $this->byCode(self::values([$document])[$document] ?? []);
    }

    /**
     * What documents have in their fields, values of their dossiers among it.
     *
     * @param  list<int>  $ids
     * @return array<int, array<int, list<string>>> document => field id => normal forms
     */
    public static function values(array $ids): array
    {
        $values = [];
        foreach (DB::table('effective_values')->whereIntegerInRaw('document_id', $ids)->orderBy('position')->get() as $row) {
            $values[(int) $row->document_id][(int) $row->field_id][] = (string) $row->value;
        }

        return $values;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, list<array{string, string, string}>> document => references, titles and kinds of the dossiers it is in
     */
    private static function dossiers(array $ids): array
    {
        $dossiers = [];
        foreach (
            DB::table('document_dossier')
                ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
                ->whereIntegerInRaw('document_id', $ids)
                ->orderBy('dossiers.id')
                ->get(['document_id', 'ref', 'title', 'kind']) as $row
        ) {
            $dossiers[(int) $row->document_id][] = [(string) $row->ref, (string) $row->title, (string) $row->kind];
        }

        return $dossiers;
    }

    /**
     * Where documents stand in procedures; what was given up is as if it had never been.
     *
     * @param  list<int>  $ids
     * @return array<int, list<Standing>> by document
     */
    private static function standings(array $ids): array
    {
        $rows = DB::table('cases')
            ->whereIntegerInRaw('document_id', $ids)
            ->where('status', '!=', Status::GivenUp->value)
            ->whereNotNull('step')
            ->orderBy('id')
            ->get(['id', 'document_id', 'procedure', 'step', 'decision', 'since']);
        $with = [];
        foreach (
            $rows->isEmpty()
                ? []
                : DB::table('tasks')
                    ->join('task_audience', 'task_audience.task_id', '=', 'tasks.id')
                    ->leftJoin('groups', 'groups.id', '=', 'task_audience.group_id')
                    ->leftJoin('users', 'users.id', '=', 'task_audience.user_id')
                    ->leftJoin('users as holders', 'holders.id', '=', 'tasks.holder_id')
                    ->whereIntegerInRaw('case_id', Column::numbers($rows->pluck('id')))
                    ->whereNull('closed_at')
                    ->orderBy('tasks.number')
                    ->orderBy('task_audience.id')
                    ->get(['case_id', 'groups.name as group', 'users.name as person', 'holders.name as holder']) as $row
        ) {
            $with[(int) $row->case_id][] = (string) ($row->holder ?? $row->group ?? $row->person);
        }
        $standings = [];
        foreach ($rows as $row) {
            $standings[(int) $row->document_id][] = new Standing(
                (string) $row->procedure,
                (string) $row->step,
                $row->decision === null ? null : (string) $row->decision,
                array_values(array_unique($with[(int) $row->id] ?? [])),
                substr((string) $row->since, 0, 10),
            );
        }

        return $standings;
    }

    /**
     * @param  Collection<int, Document>  $documents
     * @return array{array<int, string>, array<int, bool>} document => its whole text; document => whether it is nothing but pieces of a text
     */
    private function texts(Collection $documents): array
    {
        $pages = $pieces = [];
        foreach (
            DB::table('pages')
                ->whereIntegerInRaw('document_id', $documents->modelKeys())
                ->orderBy('document_id')
                ->orderBy('number')
                ->cursor() as $page
        ) {
            $isPiece = (float) $page->width === 0.0;
            $pages[(int) $page->document_id][] = [(string) $page->text, $isPiece];
            // What an office file has beside its drawn pages is a text, and stands on a line of its own as they do.
            $pieces[(int) $page->document_id] = ($pieces[(int) $page->document_id] ?? true) && $isPiece;
        }

        return [array_map(PlainPages::joined(...), $pages), $pieces];
    }

    /**
     * @param  Collection<int, Document>  $documents
     * @return array<int, list<string>> the texts of earlier versions, the oldest first
     */
    private function earlier(Collection $documents): array
    {
        $pages = [];
        $ids = $documents->where('version', '>', 1)->modelKeys();
        foreach (
            $ids === []
                ? []
                : DB::table('version_pages')
                    ->whereIntegerInRaw('document_id', $ids)
                    ->orderBy('document_id')
                    ->orderBy('version')
                    ->orderBy('number')
                    ->cursor() as $page
        ) {
            $pages[(int) $page->document_id][(int) $page->version][] = [(string) $page->text, (float) $page->width === 0.0];
        }

        return array_map(static fn (array $versions): array => array_map(PlainPages::joined(...), array_values($versions)), $pages);
    }

    /**
     * @param  array<int, list<string>>  $stored  normal forms by field id
     * @return array<string, list<string>> by field code
     */
    private function byCode(array $stored): array
    {
        $values = [];
        foreach ($stored as $id => $normals) {
            $field = $this->catalog->fieldOfId($id);
            if ($field !== null) {
                $values[$field->code] = $normals;
            }
        }

        return $values;
    }
}
