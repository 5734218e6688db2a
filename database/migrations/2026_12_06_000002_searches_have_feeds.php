<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** By a secret address a feed reader learns what is new in a search, as the person who made it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('feeds', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('saved_search_id')->constrained()->cascadeOnDelete();
            $table->string('token_hash', 64)->unique();
            $table->timestamp('made_at');
            $table->unique(['user_id', 'saved_search_id']);
        });
    }

    public function down(): void
    {
        Schema::drop('feeds');
    }
};
