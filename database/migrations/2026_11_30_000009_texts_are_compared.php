<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // By what texts that are alike are known: a number for all words, and keys that texts which are nearly alike have in common.
        Schema::table('documents', function (Blueprint $table): void {
            $table->binary('text_print')->nullable();
            $table->index('sha256');
        });
        // Nothing but what is looked up: a key and the documents that have it.
        DB::statement(
            'CREATE TABLE near_texts ("key" INTEGER NOT NULL, document_id INTEGER NOT NULL, PRIMARY KEY ("key", document_id)) WITHOUT ROWID',
        );
        // So that what is still to be noted is found without looking at all.
        DB::statement("CREATE INDEX documents_unprinted ON documents (id) WHERE text_print IS NULL AND text_state = 'read'");
    }

    public function down(): void
    {
        Schema::dropIfExists('near_texts');
        DB::statement('DROP INDEX documents_unprinted');
        Schema::table('documents', function (Blueprint $table): void {
            $table->dropIndex(['sha256']);
            $table->dropColumn('text_print');
        });
    }
};
