<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Acts on several whole documents, with what each was before, so that they can be taken back. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('document_acts', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained();
            $table->string('kind', 20);
            $table->string('says', 300);
            $table->longText('items');
            $table->boolean('is_undone')->default(false);
            $table->dateTime('at');
        });
    }

    public function down(): void
    {
        Schema::drop('document_acts');
    }
};
