<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', function (Blueprint $table): void {
            $table->timestamp('out_of_use_at')->nullable();
            $table->timestamp('last_sign_in_at')->nullable();
            $table->string('code_hash')->nullable();
            $table->timestamp('code_expires_at')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table(
            'users',
            fn (Blueprint $table) => $table->dropColumn(['out_of_use_at', 'last_sign_in_at', 'code_hash', 'code_expires_at']),
        );
    }
};
