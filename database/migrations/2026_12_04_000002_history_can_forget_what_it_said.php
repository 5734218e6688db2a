<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The chain covers the sum of what an entry says: what is said of a destroyed document can go without breaking it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('history', function (Blueprint $table): void {
            // Null in entries from before, whose hash covers what they say itself.
            $table->string('detail_sum')->nullable();
        });
    }
};
