<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** An act that was undone names the documents it left alone, and why. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('document_acts', function (Blueprint $table): void {
            $table->json('left_alone')->default('{}');
            $table->index(['user_id', 'id']);
        });
        Schema::table('value_act_items', fn (Blueprint $table) => $table->string('why', 300)->nullable());
    }

    public function down(): void
    {
        Schema::table('document_acts', function (Blueprint $table): void {
            $table->dropIndex(['user_id', 'id']);
            $table->dropColumn('left_alone');
        });
        Schema::table('value_act_items', fn (Blueprint $table) => $table->dropColumn('why'));
    }
};
