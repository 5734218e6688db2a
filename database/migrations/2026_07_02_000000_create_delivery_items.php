<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What is in a delivery, a row for each document: one column with all of them had to be held in memory whole. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('delivery_items', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('delivery_id')->index()->constrained();
            // As they were delivered: documents change, and are disposed of.
            $table->string('ref');
            $table->text('title');
            $table->text('file');
            $table->string('sha256', 64);
            $table->text('remark');
        });
        DB::statement("INSERT INTO delivery_items (delivery_id, ref, title, file, sha256, remark)
            SELECT d.id, i.value->>'ref', i.value->>'title', i.value->>'file', i.value->>'sha256', COALESCE(i.value->>'remark', '') FROM deliveries d, json_each(d.contents) i ORDER BY d.id, i.key");
        Schema::table('deliveries', fn (Blueprint $table) => $table->dropColumn('contents'));
    }
};
