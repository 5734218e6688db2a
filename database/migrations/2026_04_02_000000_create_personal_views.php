<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Views that people make for themselves. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('personal_views', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('code');
            $table->json('content');
            $table->unique(['user_id', 'code']);
        });
    }
};
