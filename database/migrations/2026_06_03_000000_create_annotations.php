<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What people lay over the pages of documents; the files stay as they are. Boxes and strokes are in the page's units. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('annotations', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->unsignedInteger('page');
            $table->string('kind', 20);
            $table->json('boxes')->default('[]');
            $table->json('strokes')->default('[]');
            // Of words: where they stand in the page's text (bytes), and the words again to find them in another version.
            $table->unsignedInteger('start')->nullable();
            $table->unsignedInteger('length')->nullable();
            $table->text('exact')->default('');
            $table->text('prefix')->default('');
            $table->text('suffix')->default('');
            $table->text('text')->default('');
            $table->boolean('is_folded')->default(false);
            $table->boolean('is_private')->default(false);
            $table->boolean('is_lost')->default(false);
            $table->foreignId('user_id')->constrained();
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
            $table->softDeletes();
            $table->index(['document_id', 'page']);
        });
    }

    public function down(): void
    {
        Schema::drop('annotations');
    }
};
