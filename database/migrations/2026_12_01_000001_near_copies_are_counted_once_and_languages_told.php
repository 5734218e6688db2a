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
        // Only keys that two documents or more have, so that it is as long as there are copies.
        DB::statement(
            'CREATE TABLE near_families ("key" INTEGER NOT NULL, document_id INTEGER NOT NULL, PRIMARY KEY ("key", document_id)) WITHOUT ROWID',
        );
        DB::statement('CREATE TABLE near_families_changed (times INTEGER NOT NULL)');
        DB::statement('INSERT INTO near_families_changed VALUES (0)');
        // What a person says the language is, and what is told from the text where nobody does.
        Schema::table('documents', function (Blueprint $table): void {
            $table->string('said_language', 2)->nullable();
            $table->string('told_language', 2)->nullable();
        });
        // Texts are noted anew, with what is kept of them now.
        DB::table('near_texts')->delete();
        DB::table('documents')->update(['text_print' => null]);
    }

    public function down(): void
    {
        Schema::dropIfExists('near_families');
        Schema::dropIfExists('near_families_changed');
        Schema::table('documents', function (Blueprint $table): void {
            $table->dropColumn(['said_language', 'told_language']);
        });
    }
};
