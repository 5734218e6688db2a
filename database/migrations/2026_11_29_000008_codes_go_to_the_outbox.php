<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', fn (Blueprint $table) => $table->string('mail', 200)->nullable());
        Schema::table('outbox', function (Blueprint $table): void {
            // A message that is no delivery has its own text; one with a code says whose it is, to be blanked when it is used.
            $table->unsignedBigInteger('delivery_id')->nullable()->change();
            $table->text('text')->nullable();
            $table->foreignId('code_of')->nullable()->constrained('users')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::table('outbox', function (Blueprint $table): void {
            $table->dropConstrainedForeignId('code_of');
            $table->dropColumn('text');
        });
        Schema::table('users', fn (Blueprint $table) => $table->dropColumn('mail'));
    }
};
