<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // How each source fares: what it said last, and when it is asked again.
        Schema::create('source_states', function (Blueprint $table): void {
            $table->string('source', 40)->primary();
            $table->string('says', 500)->default('');
            $table->unsignedInteger('tries')->default(0);
            $table->timestamp('again_at')->nullable();
            $table->timestamp('looked_at')->nullable();
        });
        // One row for each thing that was taken from a source: what makes it come once, whenever the worker is killed.
        Schema::create('arrivals', function (Blueprint $table): void {
            $table->id();
            $table->string('source', 40);
            $table->string('token', 60);
            $table->foreignId('document_id')->nullable()->constrained()->cascadeOnDelete();
            $table->unique(['source', 'token']);
        });
        Schema::table('documents', function (Blueprint $table): void {
            $table->string('source', 40)->nullable();
            // Who sees it while it waits; nobody else’s than its bringer’s where there is none.
            $table->string('intake_group', 100)->nullable();
            $table->string('intake_note', 500)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('documents', fn (Blueprint $table) => $table->dropColumn(['source', 'intake_group', 'intake_note']));
        Schema::dropIfExists('arrivals');
        Schema::dropIfExists('source_states');
    }
};
