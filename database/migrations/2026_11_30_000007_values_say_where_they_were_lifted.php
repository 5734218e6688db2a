<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // Where on the pages of which version a value was lifted from. What has another value now is told no more.
        Schema::create('lifted_values', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->foreignId('field_id')->constrained()->cascadeOnDelete();
            $table->text('value');
            $table->unsignedInteger('version');
            $table->unsignedInteger('page');
            $table->text('boxes');
            $table->index(['document_id', 'field_id']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('lifted_values');
    }
};
