<?php

declare(strict_types=1);

use App\Index\IndexState;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** The blobs of the index are kept by number instead of by name: smaller, and one look instead of two. */
return new class extends Migration
{
    public function up(): void
    {
        foreach (['ix0', 'ix1'] as $set) {
            foreach (['segment', 'blob', 'term', 'record'] as $table) {
                Schema::drop("{$set}_{$table}");
            }
            DB::statement("CREATE TABLE {$set}_segment (segment INTEGER PRIMARY KEY, stamp INTEGER NOT NULL)");
            DB::statement("CREATE TABLE {$set}_space (number INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE)");
            DB::statement("CREATE TABLE {$set}_blob (id INTEGER PRIMARY KEY, data BLOB NOT NULL)");
            DB::statement(
                "CREATE TABLE {$set}_term (space TEXT NOT NULL, number INTEGER NOT NULL, term TEXT NOT NULL, fold TEXT, PRIMARY KEY (space, number)) WITHOUT ROWID",
            );
            DB::statement("CREATE UNIQUE INDEX {$set}_term_term ON {$set}_term (space, term)");
            DB::statement("CREATE INDEX {$set}_term_fold ON {$set}_term (space, fold) WHERE fold IS NOT NULL");
            DB::statement("CREATE TABLE {$set}_record (document INTEGER PRIMARY KEY, data BLOB NOT NULL)");
        }
        DB::table('ix_state')->update([
            'building' => null,
            'reached' => 0,
            'format' => DB::table('documents')->exists() ? 0 : IndexState::FORMAT,
        ]);
    }
};
