<?php

declare(strict_types=1);

namespace App\Index;

use App\Design\Catalog;
use App\Models\Document;
use App\Redaction\RedactedTexts;
use Brenvic\Core\Capture\LineBreaks;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\DateRange;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\NameCode;
use Brenvic\Core\Index\Part;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** Keeps the index true to the tables. Call it in the transaction that changes the documents. */
final readonly class Indexer
{
    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * Brings the index entries of some documents up to date, whatever happened to them.
     *
     * @param  list<int>  $ids
     */
    public function update(array $ids): void
    {
        $state = IndexState::read();
        $this->fill(new SqliteStore($state->live), $ids);
        if ($state->building !== null) {
            $this->fill(new SqliteStore($state->building), array_values(array_filter($ids, static fn (int $id): bool => $id <= $state->reached)));
        }
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
        $redacted = RedactedTexts::joined($documents->modelKeys(), $pieces);
        $values = self::values($documents->modelKeys());
        $dossiers = self::dossiers($documents->modelKeys());
        $comments = [];
        foreach (DB::table('comments')->whereIntegerInRaw('document_id', $documents->modelKeys())->whereNull('deleted_at')->orderBy('id')->get(['document_id', 'text']) as $comment) {
            $comments[(int) $comment->document_id][] = (string) $comment->text;
        }
        $earlier = $this->earlier($documents);
        $indexed = [];
        foreach ($documents as $document) {
            $indexed[$document->id] = $this->indexed($document, $texts[$document->id] ?? '', $redacted[$document->id] ?? null, $values[$document->id] ?? [], $dossiers[$document->id] ?? [], $comments[$document->id] ?? [], $earlier[$document->id] ?? []);
        }

        return $indexed;
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
        foreach (DB::table('document_dossier')->join('dossiers', 'dossiers.id', '=', 'dossier_id')->whereIntegerInRaw('document_id', $ids)->orderBy('dossiers.id')->get(['document_id', 'ref', 'title', 'kind']) as $row) {
            $dossiers[(int) $row->document_id][] = [(string) $row->ref, (string) $row->title, (string) $row->kind];
        }

        return $dossiers;
    }

    /**
     * @param  Collection<int, Document>  $documents
     * @return array{array<int, string>, array<int, bool>} document => its whole text; document => whether it was cut into pieces
     */
    private function texts(Collection $documents): array
    {
        $pages = $pieces = [];
        foreach (DB::table('pages')->whereIntegerInRaw('document_id', $documents->modelKeys())->orderBy('document_id')->orderBy('number')->cursor() as $page) {
            $isPiece = (float) $page->width === 0.0;
            $pages[(int) $page->document_id][] = [(string) $page->text, $isPiece];
            $pieces[(int) $page->document_id] = $isPiece;
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
        foreach ($ids === [] ? [] : DB::table('version_pages')->whereIntegerInRaw('document_id', $ids)->orderBy('document_id')->orderBy('version')->orderBy('number')->cursor() as $page) {
            $pages[(int) $page->document_id][(int) $page->version][] = [(string) $page->text, (float) $page->width === 0.0];
        }

        return array_map(static fn (array $versions): array => array_map(PlainPages::joined(...), array_values($versions)), $pages);
    }

    /** @return list<string> the text with words whole that lines cut, and the parts of these beside it */
    private static function whole(string $text): array
    {
        [$joined, $parts] = LineBreaks::joined($text);

        return $parts === '' ? [$joined] : [$joined, $parts];
    }

    /**
     * @param  string|null  $redacted  the text without what was removed; null when nothing was
     * @param  array<int, list<string>>  $stored  normal forms by field id
     * @param  list<array{string, string, string}>  $dossiers  references, titles and kinds
     * @param  list<string>  $comments
     * @param  list<string>  $earlier  the texts of earlier versions
     */
    private function indexed(Document $document, string $text, ?string $redacted, array $stored, array $dossiers, array $comments, array $earlier): IndexedDocument
    {
        $library = $this->catalog->libraries()->get($document->library_id);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $parts = [
            Part::Names->value => array_values(array_unique([$document->title, $document->file_name, $document->ref])),
            Part::Text->value => self::whole($redacted ?? $text),
            Part::Paths->value => [$document->path],
            Part::Comments->value => $comments,
            // What earlier versions say is kept with the original: nobody has looked at what would have to go from them.
            Part::Earlier->value => $redacted === null ? $earlier : [],
            Part::Original->value => $redacted === null ? [] : [...self::whole($text), ...$earlier],
            Part::Values->value => [],
            Part::ofField('ref') => [$document->ref],
            Part::ofField('file_name') => [$document->file_name],
        ];
        $values = [
            'library' => [$library->code ?? ''],
            'repository' => [$library?->repository->code ?? ''],
            'file_type' => [$document->file_kind],
            'text_state' => [$document->text_state],
            'attached' => [$document->parent_id === null ? '0' : '1'],
        ];
        $ordinals = ['pages' => [FieldDefinition::numberOrdinal($document->page_count)], ...NameCode::of('title', $document->title), ...NameCode::of('file_name', $document->file_name), ...NameCode::of('ref', $document->ref)];
        if ($type !== null) {
            $values['type'] = [$type->code];
            $parts[Part::Values->value][] = $type->name;
        }
        if ($document->creator !== null) {
            $values['creator'] = [$document->creator->name];
            $parts[Part::ofField('creator')] = [$document->creator->name];
        }
        if ($document->filed_at !== null) {
            $ordinals['created'] = [PartialDate::parse($document->filed_at->format('Y-m-d'))->firstDay()];
        }
        $faceted = ['library', 'repository', 'file_type', 'text_state', 'attached', 'type', 'dossier_kind'];
        foreach ($dossiers as [$ref, $title, $kind]) {
            $values['dossier'][] = $ref;
            in_array($kind, $values['dossier_kind'] ?? [], true) || $values['dossier_kind'][] = $kind;
            array_push($parts[Part::Values->value], $ref, $title);
            $parts[Part::ofField('dossier')][] = "{$ref} {$title}";
        }
        foreach ($stored as $id => $normals) {
            $field = $this->catalog->fieldOfId($id);
            if ($field !== null) {
                $this->addValues($field, $normals, $parts, $values, $ordinals);
                if ($field->faceted) {
                    $faceted[] = $field->code;
                }
            }
        }

        return new IndexedDocument($document->id, $parts, $values, $ordinals, $faceted);
    }

    /**
     * @param  list<string>  $normals
     * @param  array<string, list<string>>  $parts
     * @param  array<string, list<string>>  $values
     * @param  array<string, list<int>>  $ordinals
     */
    private function addValues(FieldDefinition $field, array $normals, array &$parts, array &$values, array &$ordinals): void
    {
        if (! $field->kind->isOrdered()) {
            $values[$field->code] = [];
        }
        foreach ($normals as $normal) {
            if ($field->kind->hasWords()) {
                foreach ([$field->display($normal), ...$field->vocabulary->terms[$normal]->synonyms ?? []] as $shown) {
                    $parts[Part::ofField($field->code)][] = $shown;
                    // What is sensitive is found only by whoever looks in the field itself.
                    if (! Cover::hides($field)) {
                        $parts[Part::Values->value][] = $shown;
                    }
                }
            }
            $ordinal = $field->ordinal($normal);
            if ($ordinal !== null) {
                $ordinals[$field->code][] = $ordinal;
            }
            if ($field->kind === FieldKind::DateRange) {
                $ordinals[Keys::end($field->code)][] = DateRange::parse($normal)->lastDay();
            }
            foreach (match ($field->kind) {
                FieldKind::Choice => $field->vocabulary?->lineage($normal) ?? [$normal],
                FieldKind::Date => array_unique([substr($normal, 0, 4), substr($normal, 0, 7)]),
                FieldKind::DateRange => DateRange::parse($normal)->years(),
                FieldKind::LongText, FieldKind::Number, FieldKind::Amount => [],
                default => [$normal],
            } as $value) {
                if (! in_array($value, $values[$field->code] ?? [], true)) {
                    $values[$field->code][] = $value;
                }
            }
            if ($field->isTree() || ($field->kind === FieldKind::Date && strlen($normal) < 10)) {
                $values[Keys::own($field->code)][] = $normal;
            }
        }
    }
}
