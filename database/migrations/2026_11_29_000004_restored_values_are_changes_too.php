<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** A value given back was a mark on the change that was undone. It is a change of its own, so that it can be undone in turn. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('value_changes', function (Blueprint $table): void {
            $table->string('field')->nullable()->change();
            $table->unsignedInteger('position')->nullable()->change();
            $table->text('value')->nullable()->change();
        });
        $undone = DB::table('value_changes')
            ->whereNotNull('undone_by')
            ->orderBy('undone_by')
            ->orderByDesc('id')
            ->select(['undone_by', 'document_id', 'dossier_id', 'new_field', 'new_position', 'new_value', 'field', 'position', 'value']);
        DB::table('value_changes')->insertUsing(
            ['design_version_id', 'document_id', 'dossier_id', 'field', 'position', 'value', 'new_field', 'new_position', 'new_value'],
            $undone,
        );
        Schema::table('value_changes', function (Blueprint $table): void {
            $table->dropIndex(['design_version_id', 'undone_by']);
            $table->dropColumn('undone_by');
            $table->index('design_version_id');
            $table->index('dossier_id');
        });
    }

    public function down(): void
    {
        Schema::table('value_changes', function (Blueprint $table): void {
            $table->dropIndex(['design_version_id']);
            $table->dropIndex(['dossier_id']);
            $table->unsignedInteger('undone_by')->nullable();
            $table->index(['design_version_id', 'undone_by']);
        });
    }
};
