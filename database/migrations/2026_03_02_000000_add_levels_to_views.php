<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The fields by which a view groups its documents, outermost first, and what each group sums up. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('views', function (Blueprint $table): void {
            $table->json('levels')->default('[]');
            $table->string('total')->nullable();
            $table->string('total_as')->default('sum');
        });
    }
};
