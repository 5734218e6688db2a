<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Capture\ReadText;
use App\Catalog\Catalog;
use App\Files\FileStore;
use App\Files\NewFile;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Models\Document;
use App\Models\DocumentType;
use App\Support\Refused;
use Brenvic\Core\Design\SheetEntry;
use Brenvic\Core\Design\WorkFormPart;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;

/**
 * Takes what somebody outside sent by a work form: a document of each of its types with the values that were given, and the files
 * with the first of them. All of it is there, or nothing.
 */
final readonly class FormArrivals
{
    public function __construct(
        private Catalog $catalog,
        private Arrivals $arrivals,
        private FileStore $files,
        private Filing $filing,
        private Indexer $indexer,
    ) {
    }

    /**
     * @param  array<string, list<string>>  $given  as typed, by field code
     * @param  list<UploadedFile>  $files
     * @return list<Document>
     *
     * @throws InvalidSheet|Refused
     */
    public function take(WorkFormPart $form, array $given, array $files): array
    {
        $library = $this->catalog->libraries()->firstWhere('code', $form->library) ?? throw new Refused('This form is out of use.');
        $given = array_intersect_key($given, array_flip($form->fieldCodes()));
        $sheets = $this->sheets($form, $given);
        $taken = [$this->files->takeContents($this->text($form, $given))];
        foreach ($files as $file) {
            $taken[] = $this->files->take($file->getRealPath());
        }

        return DB::transaction(function () use ($form, $library, $sheets, $taken, $files): array {
            $made = [];
            foreach ($sheets as [$type, $values]) {
                $file = new NewFile($taken[0][0], $taken[0][1], "{$form->name}.txt");
                $document = $this->arrivals->create($library->id, $file, $this->files->head($file->sha256), [
                    'path' => "Work form: {$form->name}",
                    'intake_group' => $form->isFiled ? null : $form->group,
                ]);
                $this->filing->put($document, $type, $values, $form->isFiled ? ['state' => Document::FILED, 'filed_at' => now()] : []);
                ReadText::soon($document);
                $made[] = $document;
            }
            $ids = array_map(static fn (Document $document): int => $document->id, $made);
            foreach ($files as $i => $file) {
                [$sha256, $bytes] = $taken[$i + 1];
                $name = Arrivals::safeName($file->getClientOriginalName());
                $attached = $this->arrivals->attach($made[0], $name, $sha256, $bytes, $bytes === 0 ? '' : $this->files->head($sha256));
                $form->isFiled && $attached->update(['state' => Document::FILED, 'filed_at' => now()]);
                $ids[] = $attached->id;
            }
            if ($form->isFiled) {
                foreach ($made as $document) {
                    History::record(Act::Filed, null, $document, ['work_form' => $form->name]);
                }
                $this->indexer->update($ids);
            }

            return $made;
        });
    }

    /**
     * @param  array<string, list<string>>  $given
     * @return list<array{DocumentType, array<string, list<string>>}> types, and normal forms by field code
     *
     * @throws InvalidSheet|Refused
     */
    private function sheets(WorkFormPart $form, array $given): array
    {
        $faults = [];
        $sheets = [];
        $fields = $this->catalog->fields();
        $isGiven = array_filter($given, static fn (array $texts): bool => array_filter($texts) !== []);
        foreach ($form->fields as $entry) {
            if ($entry->isRequired && array_filter($given[$entry->code] ?? [], static fn (string $text): bool => trim($text) !== '') === []) {
                $faults[$entry->code] = ($fields[$entry->code]->label ?? $entry->code).' is needed.';
            }
        }
        foreach ($form->types as $code) {
            $type = $this->catalog->types()->firstWhere('code', $code) ?? throw new Refused('This form is out of use.');
            $read = $this->catalog->sheet($type)->read($given, null);
            // What the form does not ask for is filled in later, by whoever files it.
            $faults += $form->isFiled ? $read['faults'] : array_intersect_key($read['faults'], $isGiven);
            $sheets[] = [$type, $read['values']];
        }
        if ($faults !== []) {
            throw new InvalidSheet($faults);
        }

        return $sheets;
    }

    /**
     * What was sent, as a text to be read.
     *
     * @param  array<string, list<string>>  $given
     */
    private function text(WorkFormPart $form, array $given): string
    {
        $fields = $this->catalog->fields();
        $lines = array_map(static function (SheetEntry $entry) use ($fields, $given): string {
            $field = $fields[$entry->code] ?? null;
            $shown = array_map(static fn (string $text): string => $field?->vocabulary->terms[$text]->label ?? $text, array_filter($given[$entry->code] ?? []));

            return ($field->label ?? $entry->code).': '.implode(', ', $shown);
        }, $form->fields);

        return "{$form->name}\n\nSent on ".now()->format('j M Y, H:i')."\n\n".implode("\n", $lines)."\n";
    }
}
