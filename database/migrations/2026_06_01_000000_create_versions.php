<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Versions of documents. A document with one version has no row of its own here: its file is the one it came with. The
 * text of the present version stands in `pages`, that of earlier ones in `version_pages`.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('documents', function (Blueprint $table): void {
            $table->unsignedInteger('version')->default(1);
            $table->boolean('is_template')->default(false);
        });
        Schema::create('versions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->string('sha256', 64);
            $table->unsignedBigInteger('bytes');
            $table->string('file_name');
            $table->string('file_kind', 20);
            $table->unsignedInteger('page_count')->default(0);
            $table->string('text_state', 20);
            $table->string('text_reason')->default('');
            $table->string('how', 20);
            $table->string('note', 500)->default('');
            $table->foreignId('made_by')->nullable()->constrained('users')->nullOnDelete();
            $table->dateTime('made_at');
            $table->unique(['document_id', 'number']);
            $table->foreign('sha256')->references('sha256')->on('files');
        });
        Schema::create('version_pages', function (Blueprint $table): void {
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->unsignedInteger('number');
            $table->float('width');
            $table->float('height');
            $table->text('text');
            $table->binary('boxes')->nullable();
            $table->primary(['document_id', 'version', 'number']);
        });
        // Who works on a document, and the copy they put by until it is a version.
        Schema::create('check_outs', function (Blueprint $table): void {
            $table->foreignId('document_id')->primary()->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->string('note', 500)->default('');
            $table->dateTime('since');
            $table->string('sha256', 64)->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->string('file_name')->nullable();
            $table->dateTime('kept_at')->nullable();
            $table->index('user_id');
            $table->foreign('sha256')->references('sha256')->on('files');
        });
    }

    public function down(): void
    {
        foreach (['check_outs', 'version_pages', 'versions'] as $table) {
            Schema::drop($table);
        }
        Schema::table('documents', fn (Blueprint $table) => $table->dropColumn(['version', 'is_template']));
    }
};
