<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What was proposed for a document that waits, and once it is filed, whether that was kept. A rule that was changed is another
        // one: its stamp tells them apart.
        Schema::create('proposal_record', function (Blueprint $table): void {
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->string('field', 40);
            $table->string('rule', 40);
            $table->string('stamp', 16);
            $table->text('values');
            $table->boolean('kept')->nullable();
            $table->primary(['document_id', 'field']);
            $table->index(['rule', 'stamp', 'kept', 'document_id']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('proposal_record');
    }
};
