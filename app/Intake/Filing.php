<?php

declare(strict_types=1);

namespace App\Intake;

use App\Design\Catalog;
use App\Index\Indexer;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Field;
use Brenvic\Core\Design\TitlePattern;
use Illuminate\Support\Facades\DB;

/** Puts index values on documents and files them. */
final readonly class Filing
{
    public function __construct(
        private Catalog $catalog,
        private Indexer $indexer,
    ) {
    }

    /**
     * Files waiting documents with the same type and values; attachments go with them.
     *
     * @param  list<Document>  $documents
     * @param  array<string, list<string>>  $input  as typed
     *
     * @throws InvalidSheet
     */
    public function file(array $documents, DocumentType $type, array $input): void
    {
        $values = $this->checked($type, $input);
        DB::transaction(function () use ($documents, $type, $values): void {
            $ids = [];
            foreach ($documents as $document) {
                $this->put($document, $type, $values, ['state' => Document::FILED, 'filed_at' => now()]);
                $ids[] = $document->id;
                foreach ($this->below($document->id) as $attachment) {
                    $attachment->update(['state' => Document::FILED, 'filed_at' => $document->filed_at]);
                    $ids[] = $attachment->id;
                }
            }
            $this->indexer->update($ids);
        });
    }

    /**
     * Changes type and values of a filed document.
     *
     * @param  array<string, list<string>>  $input
     *
     * @throws InvalidSheet
     */
    public function change(Document $document, ?DocumentType $type, array $input): void
    {
        $values = $this->checked($type, $input);
        DB::transaction(function () use ($document, $type, $values): void {
            $this->put($document, $type, $values, ['lock_version' => $document->lock_version + 1]);
            $this->indexer->update([$document->id]);
        });
    }

    /**
     * @param  array<string, list<string>>  $input
     * @return array<string, list<string>> normal forms
     *
     * @throws InvalidSheet
     */
    public function checked(?DocumentType $type, array $input): array
    {
        $read = $this->catalog->sheet($type)->read($input);
        if ($read['faults'] !== []) {
            throw new InvalidSheet($read['faults']);
        }

        return $read['values'];
    }

    /**
     * Writes type, values and title, but not the index.
     *
     * @param  array<string, list<string>>  $values  normal forms
     * @param  array<string, mixed>  $more
     */
    public function put(Document $document, ?DocumentType $type, array $values, array $more = []): void
    {
        $fields = $this->fieldIds();
        DB::table('document_values')->where('document_id', $document->id)->delete();
        $rows = [];
        foreach ($values as $code => $list) {
            foreach ($list as $i => $value) {
                $rows[] = ['document_id' => $document->id, 'field_id' => $fields[$code], 'position' => $i, 'value' => $value];
            }
        }
        DB::table('document_values')->insert($rows);
        $title = (new TitlePattern($type->title_pattern ?? ''))->title($this->catalog->fields(), $values);
        $document->fill(['document_type_id' => $type?->id, 'title' => $title ?? Arrivals::titleOf($document->file_name), ...$more])->save();
    }

    /**
     * Makes the titles of documents anew by the pattern of their type.
     *
     * @param  list<int>  $ids
     */
    public function retitle(array $ids): void
    {
        $stored = DB::table('document_values')->join('fields', 'fields.id', '=', 'field_id')->whereIntegerInRaw('document_id', $ids)
            ->orderBy('document_values.position')->get(['document_id', 'code', 'value'])->groupBy('document_id');
        foreach (Document::query()->findMany($ids) as $document) {
            $type = $this->catalog->types()->get((int) $document->document_type_id);
            $values = ($stored->get($document->id) ?? collect())->groupBy('code')->map(static fn ($rows): array => $rows->pluck('value')->all())->all();
            $title = (new TitlePattern($type->title_pattern ?? ''))->title($this->catalog->fields(), $values);
            $document->update(['title' => $title ?? Arrivals::titleOf($document->file_name)]);
        }
    }

    /** @return list<Document> everything attached, attachments of attachments too */
    public function below(int $document): array
    {
        $found = [];
        $parents = [$document];
        while ($parents !== []) {
            $level = Document::query()->whereIn('parent_id', $parents)->get();
            array_push($found, ...$level->all());
            $parents = $level->modelKeys();
        }

        return $found;
    }

    /** @return array<string, int> */
    private function fieldIds(): array
    {
        return Field::query()->pluck('id', 'code')->all();
    }
}
