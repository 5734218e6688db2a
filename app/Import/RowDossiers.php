<?php

declare(strict_types=1);

namespace App\Import;

use App\Catalog\Catalog;
use App\Dossiers\DossierFiling;
use App\Intake\InvalidSheet;
use App\Models\Dossier;
use App\Models\Library;
use App\Models\User;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Fields\InvalidValue;
use Illuminate\Support\Facades\DB;

/** The dossiers that rows of a register belong in: found by their key, or made. */
final class RowDossiers
{
    /** @var array<string, array{dossier: Dossier, values: array<string, list<string>>}|null> by kind, library and key */
    private array $found = [];

    public function __construct(private readonly DossierFiling $filing, private readonly Catalog $catalog)
    {
    }

    /** Nothing that was made is there any more. */
    public function forget(): void
    {
        $this->found = [];
    }

    /**
     * @param  array<string, list<string>>  $values  as given, the key first
     * @return array{dossier: Dossier, values: array<string, list<string>>}|null what it hands down; null when its key is none
     */
    public function of(string $kind, array $values, Library $library, ?User $by): ?array
    {
        $code = (string) array_key_first($values);
        $field = $this->catalog->fields()[$code] ?? null;
        try {
            $key = $field?->parse($values[$code][0] ?? '') ?? '';
        } catch (InvalidValue) {
            $key = '';
        }
        if ($key === '') {
            return null;
        }
        $place = "{$kind}/{$library->id}/{$key}";
        if (! array_key_exists($place, $this->found)) {
            $this->found[$place] = $this->there($kind, $code, $key, $library) ?? $this->made($kind, $code, $values, $library, $by);
        }

        return $this->found[$place];
    }

    /** @return array{dossier: Dossier, values: array<string, list<string>>}|null */
    private function there(string $kind, string $code, string $key, Library $library): ?array
    {
        $id = DB::table('dossier_values')
            ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
            ->where('kind', $kind)
            ->where('library_id', $library->id)
            ->where('field_id', $this->catalog->fieldIds()[$code] ?? 0)
            ->where('value', $key)
            ->orderBy('dossier_id')
            ->value('dossier_id');
        $dossier = $id === null ? null : Dossier::query()->find((int) $id);

        return $dossier === null ? null : ['dossier' => $dossier, 'values' => $this->handedDown($dossier)];
    }

    /** @return array<string, list<string>> normal forms by field code */
    private function handedDown(Dossier $dossier): array
    {
        $down = [];
        foreach ($this->catalog->design()->one(DossierKindPart::class, $dossier->kind)->fields ?? [] as $entry) {
            $down[$entry->code] = $entry->isHandedDown;
        }

        return array_intersect_key($this->filing->present($dossier), array_filter($down));
    }

    /**
     * @param  array<string, list<string>>  $values
     * @return array{dossier: Dossier, values: array<string, list<string>>}|null
     */
    private function made(string $kind, string $code, array $values, Library $library, ?User $by): ?array
    {
        try {
            $dossier = $this->filing->make($kind, $library, $values, $by);
        } catch (InvalidSheet $fault) {
            $sound = array_diff_key($values, $fault->faults);
            if (! isset($sound[$code]) || count($sound) === count($values)) {
                return null;
            }
            // What its rows mostly say and the field refuses stays with the documents.
            try {
                $dossier = $this->filing->make($kind, $library, $sound, $by);
            } catch (InvalidSheet) {
                return null;
            }
        }

        return ['dossier' => $dossier, 'values' => $this->handedDown($dossier)];
    }
}
