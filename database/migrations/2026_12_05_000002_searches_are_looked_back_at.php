<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What people searched for, so that it can be told what they did not find; and what a disk had on each day. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('asked_searches', static function (Blueprint $table): void {
            $table->id();
            $table->timestamp('at');
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            // Without the person: the same search has the same.
            $table->string('hash', 64);
            $table->text('search');
            // The whole query, read; what words it has are told from it.
            $table->text('cql');
            $table->unsignedInteger('total');
            $table->unsignedInteger('milliseconds');
            $table->index('at');
            $table->index(['user_id', 'id']);
        });
        Schema::create('disk_days', static function (Blueprint $table): void {
            $table->date('day')->primary();
            $table->unsignedBigInteger('used');
            $table->unsignedBigInteger('all');
        });
        Schema::create('kept_reports', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('report', 40);
            $table->string('library', 40)->nullable();
            $table->string('type', 40)->nullable();
            $table->text('people');
            // The last month that it was sent for, as 2026-11.
            $table->string('sent_for', 7)->default('');
            $table->timestamps();
        });
        Schema::table('outbox', static function (Blueprint $table): void {
            // A file that goes with the mail, until it is sent.
            $table->string('file_name', 200)->nullable();
            $table->binary('file')->nullable();
        });
    }

    public function down(): void
    {
        foreach (['kept_reports', 'disk_days', 'asked_searches'] as $table) {
            Schema::drop($table);
        }
        Schema::table('outbox', static function (Blueprint $table): void {
            $table->dropColumn(['file_name', 'file']);
        });
    }
};
