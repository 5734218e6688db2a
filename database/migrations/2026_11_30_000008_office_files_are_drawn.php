<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // How many pages were drawn of an office file: none when it stays a text, null while that is not settled.
        foreach (['documents', 'versions'] as $table) {
            Schema::table($table, fn (Blueprint $columns) => $columns->unsignedInteger('drawn_pages')->nullable());
        }
        Schema::table('documents', fn (Blueprint $columns) => $columns->index(['file_kind', 'drawn_pages']));
    }

    public function down(): void
    {
        Schema::table('documents', fn (Blueprint $columns) => $columns->dropIndex(['file_kind', 'drawn_pages']));
        foreach (['documents', 'versions'] as $table) {
            Schema::table($table, fn (Blueprint $columns) => $columns->dropColumn('drawn_pages'));
        }
    }
};
