<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Changes of the design wait in a draft until they are published as a version. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('design_changes', function (Blueprint $table): void {
            $table->id();
            $table->string('kind');
            $table->string('code');
            // Null when the part is taken out.
            $table->json('content')->nullable();
            $table->unsignedInteger('lock_version');
            $table->foreignId('changed_by')->constrained('users');
            $table->timestamps();
            $table->unique(['kind', 'code']);
        });
        Schema::create('design_versions', function (Blueprint $table): void {
            $table->id();
            $table->string('note')->default('');
            $table->longText('design');
            $table->json('effects');
            $table->foreignId('published_by')->nullable()->constrained('users');
            $table->timestamp('published_at');
        });
    }
};
