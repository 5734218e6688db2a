<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What was seen of the pages of a file, by what the file is: it is looked at once.
        Schema::create('page_signs', function (Blueprint $table): void {
            $table->string('sha256', 64);
            $table->unsignedInteger('number');
            $table->boolean('is_blank');
            $table->float('skew');
            $table->unsignedSmallInteger('turn');
            $table->string('separator', 300)->nullable();
            $table->primary(['sha256', 'number']);
        });
        // Files that somebody asked to have looked at, until they are.
        Schema::create('page_looks', function (Blueprint $table): void {
            $table->id();
            $table->string('sha256', 64)->unique();
            $table->unsignedInteger('pages');
            $table->timestamp('asked_at');
            $table->string('says', 500)->default('');
        });
        // What was made of which waiting documents, so that it can be taken back.
        Schema::create('page_works', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->json('sources');
            $table->json('results');
            $table->boolean('is_undone')->default(false);
            $table->timestamp('made_at');
        });
        Schema::table('documents', function (Blueprint $table): void {
            // Whether the words that are read of its pages are to be put into its PDF.
            $table->boolean('wants_layer')->default(false);
            // The dossier that a separator sheet named.
            $table->string('intake_dossier', 40)->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('documents', fn (Blueprint $table) => $table->dropColumn(['wants_layer', 'intake_dossier']));
        Schema::dropIfExists('page_works');
        Schema::dropIfExists('page_looks');
        Schema::dropIfExists('page_signs');
    }
};
