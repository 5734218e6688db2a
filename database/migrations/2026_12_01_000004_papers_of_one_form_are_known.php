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
        DB::statement(
            'CREATE TABLE layout_marks (mark INTEGER NOT NULL, document_id INTEGER NOT NULL, PRIMARY KEY (mark, document_id)) WITHOUT ROWID',
        );
        // The same marks with the document, so that they can be taken away.
        Schema::table('documents', function (Blueprint $table): void {
            $table->binary('layout_marks')->nullable();
            $table->index('document_type_id');
        });
        // Texts are noted anew, with what is kept of them now.
        DB::table('near_texts')->delete();
        DB::table('near_families')->delete();
        DB::table('documents')->update(['text_print' => null]);
    }

    public function down(): void
    {
        Schema::dropIfExists('layout_marks');
        Schema::table('documents', function (Blueprint $table): void {
            $table->dropIndex(['document_type_id']);
            $table->dropColumn('layout_marks');
        });
    }
};
