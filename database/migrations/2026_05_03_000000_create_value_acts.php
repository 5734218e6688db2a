<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Values of many documents changed in one act, with what was before, so that the act can be taken back. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('value_acts', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained();
            $table->string('field');
            $table->string('how');
            // Normal forms.
            $table->json('given');
            $table->string('state');
            $table->unsignedInteger('total')->default(0);
            $table->unsignedInteger('done')->default(0);
            $table->unsignedInteger('skipped')->default(0);
            $table->timestamps();
        });
        Schema::create('value_act_items', function (Blueprint $table): void {
            $table->foreignId('value_act_id')->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->json('before');
            $table->json('after');
            $table->string('outcome')->default('waiting');
            $table->primary(['value_act_id', 'document_id']);
            $table->index(['value_act_id', 'outcome']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('value_act_items');
        Schema::dropIfExists('value_acts');
    }
};
