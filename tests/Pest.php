<?php

declare(strict_types=1);

use Illuminate\Support\Facades\DB;

require_once dirname(__DIR__).'/core/tests/Support/seed.php';
require_once __DIR__.'/helpers.php';

uses(Tests\TestCase::class)->in('Feature');

// Whoever sees a test of random cases fail wants to see it fail again.
pest()
    ->afterEach(function (): void {
        $seed = seedOfFailure();
        if ($seed !== '' && ($this->status()->isFailure() || $this->status()->isError())) {
            fwrite(STDERR, "\n{$this->name()}: {$seed}\n");
        }
    })
    ->in('Feature', dirname(__DIR__).'/core/tests');

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
