<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('alarms', static function (Blueprint $table): void {
            $table->id();
            $table->string('kind');
            $table->text('says');
            $table->timestamp('raised_at');
            $table->timestamp('cleared_at')->nullable();
            $table->index(['cleared_at', 'kind']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('alarms');
    }
};
