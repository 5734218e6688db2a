<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What is removed from a page of the present version for those who may see the redacted copy only: a place in its
        // text (bytes), told again as a quote so that it is found in another version, or areas of the page (JSON).
        Schema::create('redactions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->unsignedInteger('page');
            $table->unsignedInteger('start')->nullable();
            $table->unsignedInteger('length')->nullable();
            $table->json('areas')->nullable();
            $table->text('exact')->default('');
            $table->text('prefix')->default('');
            $table->text('suffix')->default('');
            $table->string('reason', 200);
            $table->foreignId('made_by')->nullable()->constrained('users')->nullOnDelete();
            $table->dateTime('made_at');
            $table->foreignId('checked_by')->nullable()->constrained('users')->nullOnDelete();
            $table->dateTime('checked_at')->nullable();
            // Not found again in a newer version: somebody has to look.
            $table->boolean('is_lost')->default(false);
            $table->index(['document_id', 'page']);
        });
        Schema::table('secure_links', fn (Blueprint $table) => $table->string('form', 20)->default('plain'));
        // Files made of a version and what is laid over it; `stamp` says of what.
        Schema::create('renditions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->string('form', 20);
            $table->string('stamp', 64);
            $table->string('sha256', 64)->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->string('file_name')->default('');
            $table->string('fault', 500)->default('');
            $table->dateTime('made_at')->nullable();
            $table->unique(['document_id', 'form']);
            $table->foreign('sha256')->references('sha256')->on('files');
        });
    }

    public function down(): void
    {
        Schema::drop('renditions');
        Schema::drop('redactions');
        Schema::table('secure_links', fn (Blueprint $table) => $table->dropColumn('form'));
    }
};
