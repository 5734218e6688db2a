<?php

declare(strict_types=1);

namespace App\Index;

use App\Design\Catalog;
use App\Models\Document;
use App\Models\DocumentValue;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\Part;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** Keeps the index true to the tables. Call it in the transaction that changes the documents. */
final readonly class Indexer
{
    public function __construct(
        private SqliteStore $store,
        private Catalog $catalog,
    ) {
    }

    /**
     * Brings the index entries of some documents up to date, whatever happened to them.
     *
     * @param  list<int>  $ids
     */
    public function update(array $ids): void
    {
        $writer = new IndexWriter($this->store);
        foreach (array_chunk($ids, 200) as $chunk) {
            $documents = Document::query()->with(['values', 'creator'])->where('state', Document::FILED)->findMany($chunk);
            $texts = $this->texts($documents);
            $indexed = [];
            foreach ($documents as $document) {
                $indexed[] = $this->indexed($document, $texts[$document->id] ?? []);
            }
            $writer->put($indexed);
            foreach (array_diff($chunk, $documents->modelKeys()) as $gone) {
                $writer->remove($gone);
            }
            $writer->flush();
        }
    }

    /**
     * @param  Collection<int, Document>  $documents
     * @return array<int, list<string>>
     */
    private function texts(Collection $documents): array
    {
        $texts = [];
        $pages = DB::table('pages')->whereIntegerInRaw('document_id', $documents->modelKeys())->orderBy('document_id')->orderBy('number');
        foreach ($pages->cursor() as $page) {
            $texts[(int) $page->document_id][] = (string) $page->text;
        }

        return $texts;
    }

    /** @param  list<string>  $pages */
    private function indexed(Document $document, array $pages): IndexedDocument
    {
        $library = $this->catalog->libraries()->get($document->library_id);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $parts = [
            Part::Names->value => array_values(array_unique([$document->title, $document->file_name, $document->ref])),
            Part::Text->value => [implode("\n", $pages)],
            Part::Paths->value => [$document->path],
            Part::Values->value => [],
            Part::ofField('ref') => [$document->ref],
            Part::ofField('file_name') => [$document->file_name],
        ];
        $values = [
            'library' => [$library->code ?? ''],
            'repository' => [$library?->repository->code ?? ''],
            'file_type' => [$document->file_kind],
            'text_state' => [$document->text_state],
        ];
        $numbers = ['pages' => FieldDefinition::numberOrdinal($document->page_count)];
        if ($type !== null) {
            $values['type'] = [$type->code];
            $parts[Part::Values->value][] = $type->name;
        }
        if ($document->creator !== null) {
            $values['creator'] = [$document->creator->name];
        }
        if ($document->filed_at !== null) {
            $numbers['created'] = PartialDate::parse($document->filed_at->format('Y-m-d'))->firstDay();
        }
        $faceted = ['library', 'repository', 'file_type', 'text_state', 'type'];
        foreach ($document->values->groupBy('field_id') as $id => $stored) {
            $field = $this->catalog->fieldOfId((int) $id);
            if ($field !== null) {
                $this->addValues($field, $stored->map(static fn (DocumentValue $v): string => $v->value)->all(), $parts, $values, $numbers);
                if ($field->faceted) {
                    $faceted[] = $field->code;
                }
            }
        }

        return new IndexedDocument($document->id, $parts, $values, $numbers, $faceted);
    }

    /**
     * @param  array<int, string>  $normals
     * @param  array<string, list<string>>  $parts
     * @param  array<string, list<string>>  $values
     * @param  array<string, int>  $numbers
     */
    private function addValues(FieldDefinition $field, array $normals, array &$parts, array &$values, array &$numbers): void
    {
        foreach ($normals as $normal) {
            if ($field->kind->hasWords()) {
                $shown = $field->display($normal);
                $parts[Part::ofField($field->code)][] = $shown;
                // What is sensitive is found only by whoever looks in the field itself.
                if (! $field->sensitive) {
                    $parts[Part::Values->value][] = $shown;
                }
            }
            $ordinal = $field->ordinal($normal);
            if ($ordinal !== null) {
                $numbers[$field->code] ??= $ordinal;
            }
            foreach (match ($field->kind) {
                FieldKind::Choice => $field->vocabulary?->lineage($normal) ?? [$normal],
                FieldKind::Date => array_unique([substr($normal, 0, 4), substr($normal, 0, 7)]),
                FieldKind::LongText => [],
                default => [$normal],
            } as $value) {
                if (! in_array($value, $values[$field->code] ?? [], true)) {
                    $values[$field->code][] = $value;
                }
            }
        }
    }
}
