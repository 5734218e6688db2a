<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What reading rules find mentioned in texts is a value like any other, but is read anew whenever the text changes. */
return new class extends Migration
{
    public function up(): void
    {
        DB::statement(
            'CREATE TABLE mentioned_values (document_id INTEGER NOT NULL REFERENCES documents(id) ON DELETE CASCADE, field_id INTEGER NOT NULL, '.
                'position INTEGER NOT NULL, value TEXT NOT NULL, PRIMARY KEY (document_id, field_id, position)) WITHOUT ROWID',
        );
        DB::statement('CREATE INDEX mentioned_values_field ON mentioned_values (field_id)');
        $this->view('UNION ALL SELECT document_id, field_id, position, value, 0, NULL FROM mentioned_values');
    }

    public function down(): void
    {
        $this->view('');
        Schema::drop('mentioned_values');
    }

    private function view(string $more): void
    {
        DB::statement('DROP VIEW effective_values');
        DB::statement("CREATE VIEW effective_values AS
            SELECT document_id, field_id, position, value, 0 AS inherited, NULL AS dossier_id FROM document_values
            UNION ALL
            SELECT dd.document_id, dv.field_id, dv.position, dv.value, 1, dd.dossier_id
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
                WHERE first.document_id = dd.document_id AND first.dossier_id < dd.dossier_id)
            {$more}");
    }
};
