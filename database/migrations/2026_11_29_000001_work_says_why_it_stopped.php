<?php

declare(strict_types=1);

use App\History\HistoryEnd;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('value_acts', fn (Blueprint $table) => $table->string('stopped', 500)->default(''));
        Schema::table('reindexings', fn (Blueprint $table) => $table->string('says', 500)->default(''));
        // Where the history ends is noted from here on.
        $last = DB::table('history')->orderByDesc('id')->first();
        $last === null || HistoryEnd::write((int) $last->id, (string) $last->hash);
        // Work that waits in the one queue there was goes on in one of the new ones.
        DB::table('jobs')->where('queue', 'default')->update(['queue' => 'started']);
    }

    public function down(): void
    {
        Schema::table('value_acts', fn (Blueprint $table) => $table->dropColumn('stopped'));
        Schema::table('reindexings', fn (Blueprint $table) => $table->dropColumn('says'));
    }
};
