<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What was found when the index was held against the documents; and which texts could not be read lately. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('index_checks', static function (Blueprint $table): void {
            $table->id();
            $table->timestamp('begun_at');
            $table->timestamp('went_on_at');
            $table->timestamp('ended_at')->nullable();
            // The last document whose record was looked at; when all were, the parts of the index are looked through.
            $table->unsignedBigInteger('reached')->default(0);
            $table->boolean('records_done')->default(false);
            $table->unsignedInteger('segments_done')->default(0);
        });
        Schema::create('index_faults', static function (Blueprint $table): void {
            $table->foreignId('check_id')->constrained('index_checks')->cascadeOnDelete();
            $table->unsignedBigInteger('document_id');
            $table->primary(['check_id', 'document_id']);
        });
        DB::statement("CREATE INDEX documents_without_text ON documents (updated_at) WHERE text_state = 'none'");
    }

    public function down(): void
    {
        DB::statement('DROP INDEX IF EXISTS documents_without_text');
        Schema::drop('index_faults');
        Schema::drop('index_checks');
    }
};
