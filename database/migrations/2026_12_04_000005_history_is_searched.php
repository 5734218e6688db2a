<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** The history is searched by person, act, library and time; a document keeps its place in it when it is gone. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('history', function (Blueprint $table): void {
            // No part of what the chain covers: it says where to look.
            $table->unsignedBigInteger('library_id')->nullable();
        });
        DB::statement('UPDATE history SET library_id = (SELECT library_id FROM documents WHERE documents.id = document_id) WHERE document_id IS NOT NULL');
        Schema::table('history', function (Blueprint $table): void {
            // By time, and not by number: the clock may have been set back.
            $table->index(['user_id', 'act', 'at']);
            $table->index(['user_id', 'at']);
            $table->index(['act', 'at']);
            $table->index(['library_id', 'at']);
            $table->index('at');
        });
    }
};
