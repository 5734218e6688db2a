<?php

declare(strict_types=1);

namespace App\Catalog;

use Illuminate\Support\Facades\DB;

/** What documents have of their own, without what their dossiers hand down to them. */
final class OwnValues
{
    /**
     * @param  list<int>  $documents
     * @return array<int, array<string, list<string>>> normal forms by document and field code
     */
    public static function of(array $documents): array
    {
        $values = [];
        foreach (
            DB::table('document_values')
                ->join('fields', 'fields.id', '=', 'field_id')
                ->whereIntegerInRaw('document_id', $documents)
                ->orderBy('position')
                ->get(['document_id', 'code', 'value']) as $row
        ) {
            $values[(int) $row->document_id][(string) $row->code][] = (string) $row->value;
        }

        return $values;
    }
}
