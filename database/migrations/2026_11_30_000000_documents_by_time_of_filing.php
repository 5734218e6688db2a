<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/** The desk lists what was filed last: a document may have waited long, so that its number does not tell. */
return new class extends Migration
{
    public function up(): void
    {
        DB::statement('CREATE INDEX documents_filed_at_index ON documents (filed_at, id) WHERE filed_at IS NOT NULL');
    }

    public function down(): void
    {
        DB::statement('DROP INDEX documents_filed_at_index');
    }
};
