<?php

declare(strict_types=1);

namespace App\Dossiers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Intake\References;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\DossierSection;
use App\Models\Library;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Design\TitlePattern;
use Brenvic\Core\Fields\CheckCharacter;
use Illuminate\Support\Facades\DB;

/** Makes dossiers and puts documents into them. A document is only ever shown in a dossier, never copied. */
final readonly class DossierFiling
{
    private const CHUNK = 500;

    public function __construct(
        private Catalog $catalog,
        private Indexer $indexer,
        private Filing $filing,
        private References $references,
        private Rights $rights,
    ) {
    }

    /**
     * Makes a dossier with the sections of its kind.
     *
     * @param  array<string, list<string>>  $input  as typed
     *
     * @throws InvalidSheet|Refused
     */
    public function make(string $kind, Library $library, array $input, ?User $by): Dossier
    {
        $part = $this->kind($kind);
        $values = $this->checked($part, $input, null, $by);

        return DB::transaction(function () use ($kind, $part, $library, $values, $by): Dossier {
            $dossier = Dossier::query()->create(['kind' => $kind, 'library_id' => $library->id, 'title' => '', 'created_by' => $by?->id]);
            $this->write($dossier, $part, $values);
            foreach ($part->sections as $i => $section) {
                $dossier->sections()->create(['name' => $section['name'], 'position' => $i]);
            }

            return $dossier;
        });
    }

    /**
     * @param  array<string, list<string>>  $input
     *
     * @throws InvalidSheet
     */
    public function change(Dossier $dossier, array $input, User $by): void
    {
        $part = $this->kind($dossier->kind);
        $values = $this->checked($part, $input, $this->present($dossier), $by);
        DB::transaction(function () use ($dossier, $part, $values): void {
            $this->write($dossier, $part, $values, ['lock_version' => $dossier->lock_version + 1]);
            $this->reindex(Column::numbers($dossier->documents()->pluck('documents.id')));
        });
    }

    /**
     * Puts documents into a dossier, or into another section of it.
     *
     * @param  list<Document>  $documents
     *
     * @throws Refused
     */
    public function put(Dossier $dossier, array $documents, ?DossierSection $section, ?User $by = null): void
    {
        DB::transaction(function () use ($dossier, $documents, $section, $by): void {
            $this->putUnindexed($dossier, $documents, $section, $by);
            $this->reindex(array_map(static fn (Document $d): int => $d->id, $documents));
        });
    }

    /**
     * The same for who makes the titles anew and indexes afterwards, all together.
     *
     * @param  list<Document>  $documents
     *
     * @throws Refused
     */
    public function putUnindexed(Dossier $dossier, array $documents, ?DossierSection $section, ?User $by = null): void
    {
        if ($dossier->closed_at !== null) {
            throw new Refused("The dossier {$dossier->ref} is closed. Open it again before anything is put into it.");
        }
        $types = $this->kind($dossier->kind)->types;
        foreach ($documents as $document) {
            $type = $this->catalog->types()->get((int) $document->document_type_id);
            if ($document->state !== Document::FILED) {
                throw new Refused("“{$document->title}” is not filed yet. Nothing was put into the dossier.");
            }
            if ($types !== [] && ($type === null || ! in_array($type->code, $types, true))) {
                throw new Refused(
                    "“{$document->title}” is ".
                        ($type === null ? 'of no type' : "a {$type->name}").
                        ', which does not belong in a dossier of this kind. Nothing was put into it.',
                );
            }
        }
        $ids = array_map(static fn (Document $d): int => $d->id, $documents);
        DB::transaction(function () use ($dossier, $ids, $section, $documents, $by): void {
            foreach ($documents as $document) {
                History::record(Act::PutInDossier, $by, $document, ['dossier' => $dossier->ref]);
            }
            $dossier->documents()->syncWithoutDetaching(array_fill_keys($ids, ['dossier_section_id' => $section?->id]));
        });
    }

    /** Closes a dossier, or opens it again: what is in it may be kept from then on. */
    public function close(Dossier $dossier, bool $isClosed, User $by): void
    {
        if (($dossier->closed_at !== null) === $isClosed) {
            return;
        }
        DB::transaction(function () use ($dossier, $isClosed, $by): void {
            $dossier->update([
                'closed_at' => $isClosed ? now() : null,
                'closed_by' => $isClosed ? $by->id : null,
                'lock_version' => $dossier->lock_version + 1,
            ]);
            History::record($isClosed ? Act::DossierClosed : Act::DossierReopened, $by, null, ['dossier' => $dossier->ref]);
            foreach (array_chunk(Column::numbers($dossier->documents()->pluck('documents.id')), 1_000) as $ids) {
                $this->indexer->retention($ids);
            }
        });
    }

    /** @param  list<Document>  $documents */
    public function takeOut(Dossier $dossier, array $documents, ?User $by = null): void
    {
        $ids = array_map(static fn (Document $d): int => $d->id, $documents);
        DB::transaction(function () use ($dossier, $ids, $documents, $by): void {
            foreach ($documents as $document) {
                History::record(Act::TakenOutOfDossier, $by, $document, ['dossier' => $dossier->ref]);
            }
            $dossier->documents()->detach($ids);
            $this->reindex($ids);
        });
    }

    /**
     * The dossier that a typed reference means.
     *
     * @throws Refused naming the likely slip
     */
    public function find(User $user, string $ref): Dossier
    {
        $ref = strtoupper(trim($ref));
        $dossier = Dossier::query()->where('ref', $ref)->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))->first();
        if ($dossier === null) {
            throw new Refused(
                CheckCharacter::holds($ref)
                    ? "There is no dossier {$ref}."
                    : "The check character of “{$ref}” does not fit: ".CheckCharacter::likelySlip($ref),
            );
        }

        return $dossier;
    }

    public function sheet(string $kind): IndexSheet
    {
        return IndexSheet::of($this->kind($kind), $this->catalog->fields());
    }

    /** @return array<string, list<string>> normal forms by field code */
    public function present(Dossier $dossier): array
    {
        $present = [];
        foreach (
            DB::table('dossier_values')
                ->join('fields', 'fields.id', '=', 'field_id')
                ->where('dossier_id', $dossier->id)
                ->orderBy('position')
                ->get(['code', 'value']) as $row
        ) {
            $present[(string) $row->code][] = (string) $row->value;
        }

        return $present;
    }

    /**
     * The references and sections of the documents inside that a person may see.
     *
     * @return array<string, int|null> reference => section
     */
    public function inside(Dossier $dossier, User $user): array
    {
        $rows = DB::table('document_dossier')
            ->join('documents', 'documents.id', '=', 'document_id')
            ->where('dossier_id', $dossier->id)
            ->whereNull('deleted_at')
            ->get(['document_id', 'ref', 'dossier_section_id']);
        $seen = array_flip($this->rights->seen($user, Column::numbers($rows->pluck('document_id'))));
        $inside = [];
        foreach ($rows as $row) {
            if (isset($seen[(int) $row->document_id])) {
                $inside[(string) $row->ref] = $row->dossier_section_id === null ? null : (int) $row->dossier_section_id;
            }
        }

        return $inside;
    }

    /** @throws Refused */
    private function kind(string $kind): DossierKindPart
    {
        return $this->catalog->design()->one(DossierKindPart::class, $kind) ?? throw new Refused("There is no dossier kind “{$kind}”.");
    }

    /**
     * @param  array<string, list<string>>  $input
     * @param  array<string, list<string>>|null  $present
     * @return array<string, list<string>>
     */
    private function checked(DossierKindPart $part, array $input, ?array $present, ?User $by): array
    {
        $sheet = IndexSheet::of($part, $this->catalog->fields());
        $read = $sheet->read($input, $present);
        $faults = [...$this->references->faults($sheet, $read['values'], $by, $present), ...$read['faults']];
        if ($faults !== []) {
            throw new InvalidSheet($faults);
        }

        return $read['values'];
    }

    /**
     * @param  array<string, list<string>>  $values  normal forms
     * @param  array<string, mixed>  $more
     */
    private function write(Dossier $dossier, DossierKindPart $part, array $values, array $more = []): void
    {
        $ids = $this->catalog->fieldIds();
        DB::table('dossier_values')->where('dossier_id', $dossier->id)->delete();
        foreach ($values as $code => $list) {
            foreach ($list as $i => $value) {
                DB::table('dossier_values')->insert([
                    'dossier_id' => $dossier->id,
                    'field_id' => $ids[$code],
                    'position' => $i,
                    'value' => $value,
                ]);
            }
        }
        $title = (new TitlePattern($part->titlePattern))->title($this->catalog->fields(), $values);
        $dossier->update(['title' => $title ?? "{$part->name} {$dossier->ref}", ...$more]);
    }

    /** @param  list<int>  $ids */
    private function reindex(array $ids): void
    {
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            $this->filing->retitle($chunk);
            $this->indexer->update($chunk);
        }
    }
}
