<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // Of which pages of the version before a version was made, where that is known: [[page, turn] or null, …].
        Schema::table('versions', fn (Blueprint $table) => $table->json('pages_from')->nullable());
        // Where annotations and redactions were in earlier versions, so that they are there again when one comes back.
        Schema::create('earlier_places', function (Blueprint $table): void {
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 20);
            $table->unsignedBigInteger('mark_id');
            $table->unsignedInteger('version');
            $table->json('place');
            $table->primary(['kind', 'mark_id', 'version']);
            $table->index('document_id');
        });
    }

    public function down(): void
    {
        Schema::drop('earlier_places');
        Schema::table('versions', fn (Blueprint $table) => $table->dropColumn('pages_from'));
    }
};
