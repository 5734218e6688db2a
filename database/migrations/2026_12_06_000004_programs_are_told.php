<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Webhooks: programs are told of what happens, in the order of the history, of which each keeps the number that it has come to. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('webhooks', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('name', 100);
            $table->string('address', 1000);
            $table->text('secret');
            $table->text('kinds');
            $table->unsignedBigInteger('told_to');
            $table->unsignedInteger('tries')->default(0);
            $table->timestamp('next_at')->nullable();
            $table->timestamp('told_at')->nullable();
            $table->string('fault', 300)->default('');
            $table->timestamp('stopped_at')->nullable();
            $table->timestamp('made_at');
        });
    }

    public function down(): void
    {
        Schema::drop('webhooks');
    }
};
