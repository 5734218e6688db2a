<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('reindexings', fn (Blueprint $table) => $table->json('libraries')->default('[]'));
        // Jobs have other names from here on. What they were about is begun anew by the workers (App\Jobs\Orphans).
        DB::table('jobs')->where('payload', 'like', '%App\\\\Jobs\\\\%')->delete();
    }

    public function down(): void
    {
        Schema::table('reindexings', fn (Blueprint $table) => $table->dropColumn('libraries'));
    }
};
