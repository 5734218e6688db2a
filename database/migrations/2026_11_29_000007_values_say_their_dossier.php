<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/** Of several dossiers a document is in, each handed-down value says which one gave it. */
return new class extends Migration
{
    public function up(): void
    {
        $this->view('NULL AS dossier_id', 'dd.dossier_id');
    }

    public function down(): void
    {
        $this->view('', '');
    }

    /** What documents have: their own values, else those of the dossier they are in (the first that has any). */
    private function view(string $own, string $handedDown): void
    {
        [$own, $handedDown] = [$own === '' ? '' : ", {$own}", $handedDown === '' ? '' : ", {$handedDown}"];
        DB::statement('DROP VIEW effective_values');
        DB::statement("CREATE VIEW effective_values AS
            SELECT document_id, field_id, position, value, 0 AS inherited{$own} FROM document_values
            UNION ALL
            SELECT dd.document_id, dv.field_id, dv.position, dv.value, 1{$handedDown}
            FROM document_dossier dd
            JOIN dossiers d ON d.id = dd.dossier_id
            JOIN handed_down h ON h.kind = d.kind
            JOIN dossier_values dv ON dv.dossier_id = d.id AND dv.field_id = h.field_id
            WHERE NOT EXISTS (SELECT 1 FROM document_values own WHERE own.document_id = dd.document_id AND own.field_id = dv.field_id)
              AND NOT EXISTS (
                SELECT 1 FROM document_dossier first
                JOIN dossiers fd ON fd.id = first.dossier_id
                JOIN handed_down fh ON fh.kind = fd.kind AND fh.field_id = dv.field_id
                JOIN dossier_values fv ON fv.dossier_id = fd.id AND fv.field_id = dv.field_id
                WHERE first.document_id = dd.document_id AND first.dossier_id < dd.dossier_id)");
    }
};
