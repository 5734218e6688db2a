<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Catalog\Catalog;
use App\Dossiers\DossierFiling;
use App\Index\Indexer;
use App\Intake\InvalidSheet;
use App\Models\Library;
use App\Support\Refused;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\MakeDossier;

/** @implements Performs<MakeDossier> */
final readonly class MakesDossiers implements Performs
{
    public function __construct(private Catalog $catalog, private DossierFiling $dossiers, private Indexer $indexer)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $values = $this->indexer->valuesOf($doing->document->id);
        $of = array_column($this->dossiers->sheet($act->kind)->fields, 'code');
        $library = Library::query()->findOrFail($doing->document->library_id);
        try {
            $dossier = $this->dossiers->make($act->kind, $library, array_intersect_key($values, array_flip($of)), null);
        } catch (InvalidSheet $fault) {
            $code = (string) array_key_first($fault->faults);

            throw new Refused('The dossier cannot be made. '.($this->catalog->fields()[$code]->label ?? $code).': '.($fault->faults[$code] ?? ''));
        }
        $this->dossiers->put($dossier, [$doing->document], null, null);

        return "Created {$dossier->ref} “{$dossier->title}”";
    }
}
