<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** The index in two sets of tables, one searched and one being rebuilt; and Dublin Core elements of fields. */
return new class extends Migration
{
    public function up(): void
    {
        foreach (['ix_segment', 'ix_blob', 'ix_term', 'ix_record', 'ix_length'] as $old) {
            Schema::dropIfExists($old);
        }
        foreach (['ix0', 'ix1'] as $set) {
            DB::statement("CREATE TABLE {$set}_segment (segment INTEGER PRIMARY KEY, stamp INTEGER NOT NULL)");
            DB::statement(
                "CREATE TABLE {$set}_blob (key TEXT NOT NULL, segment INTEGER NOT NULL, data BLOB NOT NULL, PRIMARY KEY (key, segment))",
            );
            DB::statement(
                "CREATE TABLE {$set}_term (space TEXT NOT NULL, number INTEGER NOT NULL, term TEXT NOT NULL, fold TEXT NOT NULL, PRIMARY KEY (space, number)) WITHOUT ROWID",
            );
            DB::statement("CREATE UNIQUE INDEX {$set}_term_term ON {$set}_term (space, term)");
            DB::statement("CREATE INDEX {$set}_term_fold ON {$set}_term (space, fold)");
            DB::statement("CREATE TABLE {$set}_record (document INTEGER PRIMARY KEY, data BLOB NOT NULL)");
        }
        Schema::create('ix_state', function (Blueprint $table): void {
            $table->id();
            $table->integer('live');
            $table->integer('format');
            $table->integer('building')->nullable();
            $table->integer('reached');
        });
        // What was indexed before is of an older form: the first rebuild fills the set that is live from then on.
        DB::table('ix_state')->insert([
            'id' => 1,
            'live' => 0,
            'format' => DB::table('documents')->exists() ? 0 : App\Index\IndexState::FORMAT,
            'reached' => 0,
        ]);
        Schema::table('documents', function (Blueprint $table): void {
            $table->dropIndex(['sort_title']);
            $table->dropColumn('sort_title');
        });
        Schema::table('fields', function (Blueprint $table): void {
            $table->string('dublin_core')->nullable();
        });
    }
};
