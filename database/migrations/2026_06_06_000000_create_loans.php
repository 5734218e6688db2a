<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Copies lent to a team space outside, and how they came back. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('loans', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->foreignId('user_id')->constrained();
            $table->string('borrower', 200);
            $table->string('form', 20);
            // What the copy is called there; whoever knows it reaches it.
            $table->string('key', 64)->unique();
            $table->string('sha256', 64);
            $table->date('due_on')->nullable();
            $table->string('state', 20);
            $table->string('says', 500)->default('');
            $table->unsignedInteger('returned_version')->nullable();
            $table->dateTime('lent_at');
            $table->dateTime('ended_at')->nullable();
            $table->index(['document_id', 'state']);
        });
    }

    public function down(): void
    {
        Schema::drop('loans');
    }
};
