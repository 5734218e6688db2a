<?php

declare(strict_types=1);

namespace App\Intake;

use App\Access\Rights;
use App\Capture\LayText;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Files\FileTitle;
use App\History\Act;
use App\History\DocumentActKind;
use App\History\DocumentActLog;
use App\History\History;
use App\Index\Indexer;
use App\Index\RedactedTexts;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\User;
use App\Reading\ProposalRecord;
use App\Redaction\CleanNames;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;

/** Puts index values on documents and files them. */
final readonly class Filing
{
    public function __construct(
        private Catalog $catalog,
        private Indexer $indexer,
        private References $references,
        private Rights $rights,
        private CleanNames $names,
    ) {
    }

    /**
     * Files waiting documents with the same type and values; attachments go with them.
     *
     * @param  list<Document>  $documents
     * @param  array<string, list<string>>  $input  as typed
     * @param  string|null  $name  one of the type's predefined names, for the title
     *
     * @throws InvalidSheet|Refused
     */
    public function file(array $documents, DocumentType $type, array $input, User $by, ?string $name = null): void
    {
        $values = $this->checked($type, $input, null, $by);
        $this->fileAll(array_map(static fn (Document $d): Completed => new Completed($d, $type, $values, $name), $documents), $by);
    }

    /**
     * Files waiting documents, each with a sheet of its own, as one act; attachments go with them.
     *
     * @param  list<Completed>  $completed
     * @return int the act, to be undone by
     *
     * @throws InvalidSheet|Refused
     */
    public function fileAll(array $completed, User $by): int
    {
        foreach ($completed as $one) {
            $this->mayFile($one->type, $by);
        }

        return DB::transaction(function () use ($completed, $by): int {
            $ids = [];
            // Somebody, or the same person in another window, may have filed them since they were read.
            $waiting = Document::query()
                ->whereKey(array_map(static fn (Completed $one): int => $one->document->id, $completed))
                ->where('state', Document::WAITING)
                ->count();
            if ($waiting !== count($completed)) {
                throw new Refused(
                    'Some of these documents were filed or taken away in the meantime. Nothing was filed; look at the list again.',
                );
            }
            foreach ($completed as $one) {
                $document = $one->document;
                $this->put($document, $one->type, $one->values, [
                    'state' => Document::FILED,
                    'filed_at' => now(),
                    ...$one->name === null ? [] : ['title' => $one->name],
                ]);
                $ids[] = $document->id;
                LayText::soon($document);
                foreach ($this->below($document->id) as $attachment) {
                    $attachment->update(['state' => Document::FILED, 'filed_at' => $document->filed_at]);
                    $ids[] = $attachment->id;
                }
            }
            $this->indexer->update($ids);
            ProposalRecord::settle($ids);
            $kept = $this->rights->keptFrom($by, 'file');
            $items = [];
            foreach ($completed as $one) {
                $document = $one->document;
                History::record(Act::Filed, $by, $document);
                if ($kept->has($document->id)) {
                    throw new Refused("An access rule does not let you file this: “{$document->title}”. Nothing was filed.");
                }
                $items[] = ['id' => $document->id, 'lock' => $document->lock_version, 'before' => ['state' => Document::WAITING]];
            }

            return DocumentActLog::keep($by, DocumentActKind::File, 'Filed', $items);
        });
    }

    /** @throws InvalidSheet when a type is for others to file */
    private function mayFile(DocumentType $type, User $by): void
    {
        $filers = $this->catalog->type($type)->filers ?? [];
        if ($filers !== [] && array_intersect($filers, $by->groupNames()) === []) {
            throw new InvalidSheet(['type' => "Documents of the type “{$type->name}” are filed by ".implode(', ', $filers).'.']);
        }
    }

    /**
     * Keeps what was typed on the sheet of a waiting document, as far as it is right, until it is filed.
     *
     * @param  array<string, list<string>>  $input  as typed
     * @return array<string, string> by field code, why a value was not kept
     */
    public function keepSheet(Document $document, ?DocumentType $type, array $input, User $by): array
    {
        $sheet = $this->catalog->sheet($type);
        $read = $sheet->read($input, null);
        $faults = [...$this->references->faults($sheet, $read['values'], $by), ...$read['faults']];
        DB::transaction(function () use ($document, $type, $read, $faults): void {
            $this->put($document, $type, array_diff_key($read['values'], $faults), ['lock_version' => $document->lock_version + 1]);
        });
        // What is not there yet is no fault of a sheet that goes on being filled in.
        $isGiven = static fn (string $code): bool => array_filter($input[$code] ?? [], static fn (string $text): bool => trim($text) !== '') !== [];

        return array_filter($faults, $isGiven, ARRAY_FILTER_USE_KEY);
    }

    /**
     * Changes type and values of a filed document.
     *
     * @param  array<string, list<string>>  $input
     *
     * @throws InvalidSheet|Refused
     */
    public function change(Document $document, ?DocumentType $type, array $input, User $by): void
    {
        $values = $this->checked($type, $input, $this->present($document), $by);
        DB::transaction(function () use ($document, $type, $values, $by): void {
            $this->put($document, $type, $values, ['lock_version' => $document->lock_version + 1]);
            if (RedactedTexts::has($document->id)) {
                $this->names->follow($document);
            }
            $this->indexer->update([$document->id]);
            if ($this->rights->isKeptFrom($by, 'file', $document->id) || $this->rights->isKeptFrom($by, 'change', $document->id)) {
                throw new Refused('An access rule does not let you give a document these values. Nothing was changed.');
            }
        });
    }

    /**
     * @param  array<string, list<string>>  $input
     * @param  array<string, list<string>>|null  $present  normal forms that the document has; null for a new sheet
     * @param  User|null  $by  who gives the values; null for an import
     * @return array<string, list<string>> normal forms
     *
     * @throws InvalidSheet
     */
    public function checked(?DocumentType $type, array $input, ?array $present = null, ?User $by = null): array
    {
        $sheet = $this->catalog->sheet($type);
        $read = $sheet->read($input, $present);
        $faults = [...$this->references->faults($sheet, $read['values'], $by, $present), ...$read['faults']];
        if ($faults !== []) {
            throw new InvalidSheet($faults);
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
        $fields = $this->catalog->fieldIds();
        DB::table('document_values')->where('document_id', $document->id)->delete();
        $rows = [];
        foreach ($values as $code => $list) {
            foreach ($list as $i => $value) {
                $rows[] = ['document_id' => $document->id, 'field_id' => $fields[$code], 'position' => $i, 'value' => $value];
            }
        }
        DB::table('document_values')->insert($rows);
        $all = $values + (self::handedDownTo([$document->id])[$document->id] ?? []);
        $title = $this->titleOf($document, $type, $all, $more['title'] ?? null);
        $document->fill(['document_type_id' => $type?->id, 'title' => $title, ...array_diff_key($more, ['title' => true])])->save();
    }

    /**
     * The title that a document has with a type and values.
     *
     * @param  array<string, list<string>>  $values  normal forms, those that its dossiers hand down too
     * @param  string|null  $otherwise  the title where the values make none
     */
    public function titleOf(Document $document, ?DocumentType $type, array $values, ?string $otherwise = null): string
    {
        return $this->catalog->titlePattern($type)->title($this->catalog->fields(), $values) ??
            ($otherwise ?? $this->named($document, $type));
    }

    /**
     * What documents have from their dossiers and not of their own.
     *
     * @param  list<int>  $ids
     * @return array<int, array<string, list<string>>> normal forms by document and field code
     */
    public static function handedDownTo(array $ids): array
    {
        $values = [];
        $rows = DB::table('effective_values')
            ->join('fields', 'fields.id', '=', 'field_id')
            ->whereIntegerInRaw('document_id', $ids)
            ->where('inherited', 1);
        foreach ($rows->orderBy('position')->get(['document_id', 'code', 'value']) as $row) {
            $values[(int) $row->document_id][(string) $row->code][] = (string) $row->value;
        }

        return $values;
    }

    /**
     * Makes the titles of documents anew by the pattern of their type.
     *
     * @param  list<int>  $ids
     */
    public function retitle(array $ids): void
    {
        $stored = DB::table('effective_values')
            ->join('fields', 'fields.id', '=', 'field_id')
            ->whereIntegerInRaw('document_id', $ids)
            ->orderBy('position')
            ->get(['document_id', 'code', 'value'])
            ->groupBy('document_id');
        foreach (Document::query()->findMany($ids) as $document) {
            $type = $this->catalog->types()->get((int) $document->document_type_id);
            $values = ($stored->get($document->id) ?? collect())
                ->groupBy('code')
                ->map(static fn ($rows): array => Column::texts($rows->pluck('value')))
                ->all();
            $title = $this->catalog->titlePattern($type)->title($this->catalog->fields(), $values);
            $document->update(['title' => $title ?? $this->named($document, $type)]);
            if (RedactedTexts::has($document->id)) {
                // A title made of values may say again what was removed.
                $this->names->follow($document);
            }
        }
    }

    /** The title where no pattern makes one: the predefined name it has, else its file's. */
    private function named(Document $document, ?DocumentType $type): string
    {
        return in_array($document->title, $this->catalog->type($type)->names ?? [], true)
            ? $document->title
            : FileTitle::of($document->file_name);
    }

    /** Gives a document that has none the own values of another. */
    public static function copyValues(int $from, int $to): void
    {
        DB::insert(
            'INSERT INTO document_values (document_id, field_id, position, value)
                SELECT ?, field_id, position, value FROM document_values WHERE document_id = ?',
            [$to, $from],
        );
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

    /** @return array<string, list<string>> the document's own values, normal forms by field code */
    public function present(Document $document): array
    {
        return OwnValues::of([$document->id])[$document->id] ?? [];
    }
}
