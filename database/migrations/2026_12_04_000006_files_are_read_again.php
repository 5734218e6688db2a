<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What was found when stored files were read again, and how far the present round is. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('file_rounds', function (Blueprint $table): void {
            $table->id();
            $table->timestamp('begun_at');
            $table->timestamp('ended_at')->nullable();
            $table->timestamp('read_at');
            $table->string('reached')->default('');
            $table->unsignedBigInteger('files')->default(0);
            $table->unsignedBigInteger('bytes')->default(0);
            $table->unsignedInteger('faults')->default(0);
        });
        Schema::create('file_faults', function (Blueprint $table): void {
            $table->string('sha256')->primary();
            $table->string('fault');
            $table->timestamp('found_at');
        });
    }
};
