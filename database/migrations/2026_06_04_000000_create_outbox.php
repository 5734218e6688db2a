<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Mails that would have been sent: the stand-in for a mail server keeps them to be looked at. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('outbox', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained();
            $table->string('to', 1000);
            $table->string('subject', 300);
            $table->dateTime('at');
        });
    }

    public function down(): void
    {
        Schema::drop('outbox');
    }
};
