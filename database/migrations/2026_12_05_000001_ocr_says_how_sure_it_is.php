<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How sure OCR is of the words that it read, in per cent. Of what was read before nothing is known. */
return new class extends Migration
{
    private const TABLES = ['pages' => 'confidence', 'documents' => 'ocr_confidence', 'versions' => 'ocr_confidence'];

    public function up(): void
    {
        foreach (self::TABLES as $table => $column) {
            Schema::table($table, static function (Blueprint $table) use ($column): void {
                $table->float($column)->nullable();
            });
        }
    }

    public function down(): void
    {
        foreach (self::TABLES as $table => $column) {
            Schema::table($table, static function (Blueprint $table) use ($column): void {
                $table->dropColumn($column);
            });
        }
    }
};
