<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Who did what in a period is counted from the index alone. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('history', static function (Blueprint $table): void {
            $table->dropIndex(['act', 'at']);
            $table->index(['act', 'at', 'document_id', 'user_id', 'library_id'], 'history_counted');
        });
    }

    public function down(): void
    {
        Schema::table('history', static function (Blueprint $table): void {
            $table->dropIndex('history_counted');
            $table->index(['act', 'at']);
        });
    }
};
