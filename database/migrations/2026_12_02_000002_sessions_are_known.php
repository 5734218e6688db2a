<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What people are signed in with: by a hash of what stands in the session, so that reading this table lets nobody in.
        Schema::create('sessions', static function (Blueprint $table): void {
            $table->id();
            $table->string('key_hash', 64)->unique();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->timestamp('begun_at');
            $table->timestamp('seen_at');
            $table->string('address');
            $table->string('browser');
            // Whether it goes on when the browser is closed.
            $table->boolean('stays');
            $table->index(['user_id', 'seen_at']);
        });
        Schema::table('users', static function (Blueprint $table): void {
            // A second factor: the secret, encrypted, and the step of the last code; recovery codes, hashed.
            $table->text('factor_secret')->nullable();
            $table->integer('factor_step')->default(-1);
            $table->text('recovery_hashes')->nullable();
            // Who is asked whether a password is right: Brenvic, or the directory of the office.
            $table->string('known_by')->default('brenvic');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('sessions');
        Schema::table('users', static function (Blueprint $table): void {
            $table->dropColumn(['factor_secret', 'factor_step', 'recovery_hashes', 'known_by']);
        });
    }
};
