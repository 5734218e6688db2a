<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Documents gathered for retrieval, what was delivered of them, and links for people outside. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('pull_lists', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained();
            $table->string('name');
            $table->text('note')->default('');
            // The search it goes on adding from.
            $table->json('search')->nullable();
            $table->string('hold_reason')->nullable();
            $table->timestamp('held_at')->nullable();
            $table->timestamp('frozen_at')->nullable();
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
            $table->softDeletes();
        });
        Schema::create('pull_list_items', function (Blueprint $table): void {
            $table->foreignId('pull_list_id')->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('position');
            $table->text('note')->default('');
            $table->primary(['pull_list_id', 'document_id']);
            $table->index('document_id');
        });
        Schema::create('pull_list_user', function (Blueprint $table): void {
            $table->foreignId('pull_list_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->boolean('may_change')->default(false);
            $table->primary(['pull_list_id', 'user_id']);
        });
        Schema::create('deliveries', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('pull_list_id')->constrained();
            $table->foreignId('user_id')->constrained();
            $table->string('name');
            $table->string('format');
            $table->json('settings');
            $table->string('state');
            $table->unsignedInteger('done')->default(0);
            $table->unsignedInteger('total')->default(0);
            $table->text('message')->default('');
            // References of what is in it, as it was delivered.
            $table->longText('contents')->default('[]');
            $table->string('file')->nullable();
            $table->unsignedBigInteger('bytes')->nullable();
            $table->string('sha256', 64)->nullable();
            $table->timestamp('expires_at')->nullable();
            $table->timestamps();
        });
        Schema::create('secure_links', function (Blueprint $table): void {
            $table->id();
            // The address itself is told once and kept nowhere.
            $table->string('token_hash', 64)->unique();
            $table->foreignId('user_id')->constrained();
            $table->foreignId('delivery_id')->nullable()->constrained();
            $table->foreignId('document_id')->nullable()->constrained();
            $table->string('note')->default('');
            $table->string('password')->nullable();
            $table->unsignedInteger('most_uses');
            $table->unsignedInteger('uses')->default(0);
            $table->timestamp('expires_at');
            $table->timestamp('revoked_at')->nullable();
            $table->timestamps();
        });
        Schema::create('secure_link_uses', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('secure_link_id')->constrained()->cascadeOnDelete();
            $table->timestamp('at');
            $table->string('outcome');
            $table->string('from')->default('');
        });
    }
};
