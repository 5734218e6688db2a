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
        Schema::drop('near_texts');
        // Keys that begin alike are kept in one row, which takes a third of what a row for each did.
        Schema::create('near_texts', static function (Blueprint $table): void {
            $table->integer('bucket')->primary();
            $table->binary('entries');
        });
        self::noteAnew();
    }

    public function down(): void
    {
        Schema::drop('near_texts');
        DB::statement(
            'CREATE TABLE near_texts ("key" INTEGER NOT NULL, document_id INTEGER NOT NULL, PRIMARY KEY ("key", document_id)) WITHOUT ROWID',
        );
        self::noteAnew();
    }

    private static function noteAnew(): void
    {
        DB::table('near_families')->delete();
        DB::table('near_families_changed')->increment('times');
        DB::table('layout_marks')->delete();
        DB::table('documents')->update(['text_print' => null]);
    }
};
