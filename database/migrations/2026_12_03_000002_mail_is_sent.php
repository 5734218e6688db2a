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
        Schema::table('outbox', static function (Blueprint $table): void {
            $table->timestamp('sent_at')->nullable();
            $table->unsignedSmallInteger('tries')->default(0);
            $table->timestamp('again_at')->nullable();
            $table->string('says', 500)->default('');
        });
        // What was put there while nothing was sent is not sent later.
        DB::table('outbox')->update(['sent_at' => DB::raw('at')]);
        DB::statement('CREATE INDEX outbox_to_send ON outbox (id) WHERE sent_at IS NULL');
        Schema::table('search_watches', static function (Blueprint $table): void {
            // The documents that the person was told of since they last looked.
            $table->binary('told')->nullable();
        });
    }

    public function down(): void
    {
        DB::statement('DROP INDEX IF EXISTS outbox_to_send');
        Schema::table('outbox', static function (Blueprint $table): void {
            $table->dropColumn(['sent_at', 'tries', 'again_at', 'says']);
        });
        Schema::table('search_watches', static function (Blueprint $table): void {
            $table->dropColumn('told');
        });
    }
};
