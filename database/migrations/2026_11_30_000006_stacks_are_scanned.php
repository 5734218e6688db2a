<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('scans', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('source', 40);
            $table->json('settings');
            $table->string('state', 20);
            $table->string('says', 500)->default('');
            // The scanner’s own address of what it is doing; empty until it has begun.
            $table->string('job', 500)->default('');
            $table->foreignId('document_id')->nullable()->constrained()->nullOnDelete();
            $table->timestamps();
        });
        Schema::create('scan_pages', function (Blueprint $table): void {
            $table->foreignId('scan_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->string('sha256', 64);
            $table->primary(['scan_id', 'number']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('scan_pages');
        Schema::dropIfExists('scans');
    }
};
