<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('proposals', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->index()->constrained();
            $table->string('name', 200);
            $table->string('file_name', 200);
            $table->string('what', 20);
            $table->string('state', 20);
            $table->unsignedInteger('rows')->default(0);
            $table->string('says', 500)->default('');
            // What was found, as the core has it; null until the table is read.
            $table->binary('found')->nullable();
            // How rows become values, once it is accepted.
            $table->binary('mapping')->nullable();
            // What was decided about columns, by their names, for when the same source is given again.
            $table->json('decided')->nullable();
            $table->timestamps();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('proposals');
    }
};
