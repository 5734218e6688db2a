<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('intake_at_work', function (Blueprint $table): void {
            $table->foreignId('user_id')->primary()->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->timestamp('at');
        });
        // What waits is asked for every few seconds, among many that are filed.
        Schema::table('documents', fn (Blueprint $table) => $table->index(['state', 'intake_group', 'created_by'], 'documents_waiting'));
    }

    public function down(): void
    {
        Schema::table('documents', fn (Blueprint $table) => $table->dropIndex('documents_waiting'));
        Schema::dropIfExists('intake_at_work');
    }
};
