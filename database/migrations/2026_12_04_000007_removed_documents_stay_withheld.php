<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The access rules that kept a document from somebody when it was removed from view. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('documents', static fn (Blueprint $table) => $table->text('withheld_by')->nullable());
    }

    public function down(): void
    {
        Schema::table('documents', static fn (Blueprint $table) => $table->dropColumn('withheld_by'));
    }
};
