<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('work_form_keys', static function (Blueprint $table): void {
            $table->id();
            $table->string('form');
            $table->string('key', 64)->unique();
            $table->foreignId('made_by')->constrained('users');
            $table->timestamp('at');
            $table->timestamp('revoked_at')->nullable();
            $table->index(['form', 'revoked_at']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('work_form_keys');
    }
};
