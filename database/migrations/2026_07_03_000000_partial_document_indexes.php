<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/** Nearly all documents hang on no other and belong to no exchange: an index of those that do is small, and never passed over. */
return new class extends Migration
{
    public function up(): void
    {
        foreach (['parent_id', 'exchange'] as $column) {
            DB::statement("DROP INDEX documents_{$column}_index");
            DB::statement("CREATE INDEX documents_{$column}_index ON documents ({$column}) WHERE {$column} IS NOT NULL");
        }
    }
};
