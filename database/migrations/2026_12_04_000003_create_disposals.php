<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What falls due together, is reviewed, approved by somebody else, and carried out. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('disposals', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->string('action');
            $table->string('state');
            $table->text('criterion');
            $table->string('says')->default('');
            $table->foreignId('prepared_by')->constrained('users');
            $table->foreignId('submitted_by')->nullable()->constrained('users');
            $table->timestamp('submitted_at')->nullable();
            $table->foreignId('approved_by')->nullable()->constrained('users');
            $table->timestamp('approved_at')->nullable();
            $table->timestamp('done_at')->nullable();
            $table->foreignId('pull_list_id')->nullable()->constrained();
            $table->foreignId('delivery_id')->nullable()->constrained();
            $table->text('receipt')->nullable();
            $table->foreignId('receipt_by')->nullable()->constrained('users');
            $table->timestamp('receipt_at')->nullable();
            // JSON, as it was signed; and the entry of the history that holds its SHA-256.
            $table->longText('certificate')->nullable();
            $table->unsignedBigInteger('certificate_entry')->nullable();
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
        });
        Schema::create('disposal_items', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('disposal_id')->constrained()->cascadeOnDelete();
            // No key of the database: it stays when the document is destroyed.
            $table->unsignedBigInteger('document_id');
            $table->string('ref');
            $table->string('state');
            $table->string('decision')->nullable();
            $table->date('until')->nullable();
            $table->text('reason')->nullable();
            $table->foreignId('decided_by')->nullable()->constrained('users');
            $table->string('rule')->nullable();
            $table->text('rule_says');
            $table->date('due')->nullable();
            $table->text('says')->nullable();
            $table->string('sha256')->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->unsignedBigInteger('entry')->nullable();
            $table->timestamp('done_at')->nullable();
            $table->unique(['disposal_id', 'document_id']);
            $table->index(['disposal_id', 'state', 'id']);
            $table->index('document_id');
        });
    }
};
