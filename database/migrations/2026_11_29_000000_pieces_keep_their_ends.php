<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/**
 * Pieces of a text are joined as they are now. Those that were cut at a form feed, which was dropped, get the empty line
 * that stands for it; a piece cut for its length ends in a blank, or is as long as a piece may be.
 */
return new class extends Migration
{
    private const LONGEST = 5_990;

    public function up(): void
    {
        foreach (['pages' => '', 'version_pages' => 'AND later.version = {table}.version'] as $table => $same) {
            $same = str_replace('{table}', $table, $same);
            DB::update(
                "UPDATE {$table} SET text = text || char(10, 10) WHERE width = 0 AND length(CAST(text AS BLOB)) < ?
                AND substr(text, -1) NOT IN (' ', char(9), char(10))
                AND EXISTS (SELECT 1 FROM {$table} later WHERE later.document_id = {$table}.document_id {$same} AND later.number > {$table}.number)",
                [self::LONGEST],
            );
        }
    }
};
