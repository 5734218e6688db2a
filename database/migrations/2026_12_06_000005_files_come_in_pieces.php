<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Files that programs send in pieces: how much has arrived is the length of the file that the pieces are put together in. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('uploads', static function (Blueprint $table): void {
            $table->id();
            $table->string('key', 40)->unique();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('library_id')->constrained()->cascadeOnDelete();
            $table->string('name', 300);
            $table->string('path', 1000)->default('');
            $table->unsignedBigInteger('bytes')->nullable();
            $table->foreignId('document_id')->nullable()->constrained()->nullOnDelete();
            $table->timestamp('touched_at')->index();
        });
    }

    public function down(): void
    {
        Schema::drop('uploads');
    }
};
