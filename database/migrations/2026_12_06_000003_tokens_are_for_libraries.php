<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A token may be for some libraries only: their codes; null for all that its person may enter. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('api_tokens', static function (Blueprint $table): void {
            $table->text('libraries')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('api_tokens', static function (Blueprint $table): void {
            $table->dropColumn('libraries');
        });
    }
};
