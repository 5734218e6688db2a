<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** A hold is a thing of its own: what it covers may be chosen, in a list, or found by a search. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('holds', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->text('reason');
            $table->foreignId('owner_id')->constrained('users');
            $table->date('from');
            $table->date('until')->nullable();
            $table->foreignId('pull_list_id')->nullable()->constrained();
            // A search that goes on covering what comes in; whether it has to be looked at again.
            $table->text('search')->nullable();
            $table->boolean('wants_look')->default(false);
            $table->timestamp('ended_at')->nullable();
            $table->foreignId('ended_by')->nullable()->constrained('users');
            $table->text('end_reason')->nullable();
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
            $table->index(['pull_list_id', 'ended_at']);
        });
        Schema::create('hold_items', function (Blueprint $table): void {
            $table->foreignId('hold_id')->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->string('why');
            $table->foreignId('by')->nullable()->constrained('users');
            $table->timestamp('at');
            $table->primary(['hold_id', 'document_id']);
            $table->index('document_id');
        });
        Schema::create('hold_custodians', function (Blueprint $table): void {
            $table->foreignId('hold_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->timestamp('told_at')->nullable();
            $table->timestamp('acknowledged_at')->nullable();
            $table->primary(['hold_id', 'user_id']);
        });
        foreach (DB::table('pull_lists')->whereNotNull('held_at')->get() as $list) {
            DB::table('holds')->insert([
                'name' => $list->name,
                'reason' => (string) $list->hold_reason,
                'owner_id' => $list->user_id,
                'from' => substr((string) $list->held_at, 0, 10),
                'pull_list_id' => $list->id,
                'created_at' => $list->held_at,
                'updated_at' => $list->held_at,
            ]);
        }
        Schema::table('pull_lists', fn (Blueprint $table) => $table->dropColumn('hold_reason'));
        Schema::table('pull_lists', fn (Blueprint $table) => $table->dropColumn('held_at'));
    }
};
