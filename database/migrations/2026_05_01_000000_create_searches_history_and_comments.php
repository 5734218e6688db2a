<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What people keep of their searches and documents, what they say of documents, and the history of what was done. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('saved_searches', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('name');
            $table->json('search');
            $table->json('groups');
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
        });
        Schema::create('search_watches', function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('saved_search_id')->constrained()->cascadeOnDelete();
            // The documents that were found when the person last looked (App\Find\SavedSearches).
            $table->binary('seen');
            $table->timestamp('looked_at');
            $table->primary(['user_id', 'saved_search_id']);
        });
        Schema::create('recent_searches', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('hash', 64);
            $table->json('search');
            $table->string('words');
            $table->unsignedInteger('total');
            $table->timestamp('asked_at');
            $table->unique(['user_id', 'hash']);
        });
        Schema::create('pinned_documents', function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->timestamp('pinned_at');
            $table->primary(['user_id', 'document_id']);
        });
        Schema::create('comments', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->nullable()->constrained()->cascadeOnDelete();
            $table->foreignId('dossier_id')->nullable()->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained();
            $table->text('text');
            $table->timestamps();
            $table->softDeletes();
            $table->index('document_id');
            $table->index('dossier_id');
        });
        // Rows are only ever added; each holds the hash of the one before (App\History\History).
        Schema::create('history', function (Blueprint $table): void {
            $table->id();
            $table->string('at');
            $table->unsignedInteger('user_id')->nullable();
            $table->string('act');
            $table->unsignedInteger('document_id')->nullable();
            $table->text('detail');
            $table->string('hash', 64);
            $table->index(['document_id', 'id']);
        });
    }
};
