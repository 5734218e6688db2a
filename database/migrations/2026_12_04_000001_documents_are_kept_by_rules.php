<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What decides how long a document is kept, beside its values: decisions about it, and when its dossier was closed. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('documents', function (Blueprint $table): void {
            $table->date('kept_until')->nullable();
            $table->text('exempt_reason')->nullable();
            $table->timestamp('destroyed_at')->nullable();
        });
        Schema::table('reindexings', function (Blueprint $table): void {
            $table->boolean('only_retention')->default(false);
        });
        Schema::table('dossiers', function (Blueprint $table): void {
            $table->timestamp('closed_at')->nullable();
            // Without a key, for which SQLite would make the table anew under a view.
            $table->unsignedBigInteger('closed_by')->nullable();
        });
    }
};
