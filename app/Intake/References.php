<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Document;
use App\Models\Dossier;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Fields\FieldKind;

/** Whether the documents and dossiers that a sheet refers to exist. */
final class References
{
    /**
     * @param  array<string, list<string>>  $values  normal forms by field code
     * @return array<string, string> faults by field code
     */
    public function faults(IndexSheet $sheet, array $values): array
    {
        $faults = [];
        foreach ($sheet->fields as $field) {
            $given = $field->kind === FieldKind::Reference ? $values[$field->code] ?? [] : [];
            if ($given === []) {
                continue;
            }
            $known = ($field->refersTo === 'dossier' ? Dossier::query() : Document::query())->whereIn('ref', $given)->pluck('ref')->all();
            foreach (array_diff($given, $known) as $unknown) {
                $faults[$field->code] = "There is no {$field->refersTo} {$unknown}.";
            }
        }

        return $faults;
    }
}
