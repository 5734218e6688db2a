<?php

declare(strict_types=1);

use Illuminate\Support\Facades\DB;

uses(Tests\TestCase::class)->in('Feature');

/** @return list<string> normal forms that a document has in a field */
function valuesOf(string $ref, string $field): array
{
    return DB::table('document_values')
        ->join('documents', 'documents.id', '=', 'document_id')
        ->join('fields', 'fields.id', '=', 'field_id')
        ->where('ref', $ref)
        ->where('fields.code', $field)
        ->orderBy('position')
        ->pluck('value')
        ->all();
}
