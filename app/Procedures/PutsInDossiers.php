<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Catalog\Catalog;
use App\Dossiers\DossierFiling;
use App\Index\Indexer;
use App\Models\Dossier;
use App\Support\Refused;
use Brenvic\Core\Fields\Kinds\ReferenceKind;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\PutInDossier;
use Illuminate\Support\Facades\DB;

/** @implements Performs<PutInDossier> */
final readonly class PutsInDossiers implements Performs
{
    public function __construct(private Catalog $catalog, private DossierFiling $dossiers, private Indexer $indexer)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $field = $this->catalog->fields()[$act->field] ?? throw new Refused("There is no field “{$act->field}” any more.");
        $values = $this->indexer->valuesOf($doing->document->id)[$act->field] ?? [];
        if ($values === []) {
            throw new Refused("{$field->label} is empty, so its dossier is not known.");
        }
        $found = Dossier::query()
            ->when($act->kind !== '', static fn ($q) => $q->where('kind', $act->kind))
            ->when(
                $field->kind instanceof ReferenceKind,
                static fn ($q) => $q->whereIn('ref', $values),
                fn ($q) => $q->whereIn(
                    'id',
                    DB::table('dossier_values')
                        ->where('field_id', $this->catalog->fieldIds()[$act->field] ?? 0)
                        ->whereIn('value', $values)
                        ->select('dossier_id'),
                ),
            )
            ->where('library_id', $doing->document->library_id)
            ->orderBy('id')
            ->limit(2)
            ->get();
        if ($found->count() !== 1) {
            $shown = $field->display($values[0]);

            throw new Refused(
                $found->isEmpty() ? "There is no dossier with {$field->label} “{$shown}”." : "More than one dossier has {$field->label} “{$shown}”.",
            );
        }
        $dossier = $found->firstOrFail();
        $this->dossiers->put($dossier, [$doing->document], null, null);

        return "Added to {$dossier->ref} “{$dossier->title}”";
    }
}
