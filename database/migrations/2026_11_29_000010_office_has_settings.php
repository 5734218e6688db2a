<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('office_settings', function (Blueprint $table): void {
            $table->string('name', 40)->primary();
            $table->json('value');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('office_settings');
    }
};
