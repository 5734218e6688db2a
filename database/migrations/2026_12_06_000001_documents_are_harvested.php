<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** When documents changed last for those who harvest them, what each of these saw, and what went out of their sight. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('document_changes', static function (Blueprint $table): void {
            $table->unsignedBigInteger('document_id')->primary();
            // ISO 8601 in UTC, to the second: they are compared as texts. Null until what changed is there for all.
            $table->string('changed_at', 20)->nullable();
            $table->index(['changed_at', 'document_id']);
        });
        DB::insert(
            "INSERT INTO document_changes (document_id, changed_at)
                SELECT id, REPLACE(SUBSTR(COALESCE(updated_at, filed_at, created_at), 1, 19), ' ', 'T') || 'Z' FROM documents WHERE state = 'filed' AND deleted_at IS NULL",
        );
        Schema::create('harvest_sights', static function (Blueprint $table): void {
            $table->string('asker', 64)->primary();
            $table->binary('seen');
            $table->timestamp('asked_at');
        });
        Schema::create('harvest_gone', static function (Blueprint $table): void {
            $table->string('asker', 64);
            $table->unsignedBigInteger('document_id');
            $table->string('ref', 40);
            $table->string('gone_at', 20);
            $table->primary(['asker', 'document_id']);
            $table->index(['asker', 'gone_at', 'document_id']);
        });
    }

    public function down(): void
    {
        foreach (['harvest_gone', 'harvest_sights', 'document_changes'] as $table) {
            Schema::drop($table);
        }
    }
};
