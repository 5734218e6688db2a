<?php

declare(strict_types=1);

namespace App\Index;

use Brenvic\Core\Search\DocumentNames;
use Illuminate\Support\Facades\DB;

/** Titles, references and file names, sorted by SQLite's own indexes. */
final class Names implements DocumentNames
{
    private const COLUMNS = ['title' => 'sort_title', 'ref' => 'id', 'file_name' => 'file_name'];

    public function keys(string $name, array $documents): array
    {
        $column = self::COLUMNS[$name];
        $keys = [];
        foreach (array_chunk($documents, 1_000) as $chunk) {
            foreach (DB::table('documents')->whereIntegerInRaw('id', $chunk)->get(['id', "{$column} as sort_key"]) as $row) {
                $keys[(int) $row->id] = is_int($row->sort_key) ? $row->sort_key : mb_strtolower((string) $row->sort_key);
            }
        }

        return $keys;
    }

    public function walk(string $name, bool $descending): iterable
    {
        $direction = $descending ? 'desc' : 'asc';
        $rows = DB::table('documents')->orderBy(self::COLUMNS[$name], $direction)->orderBy('id', 'desc')->select('id')->cursor();
        foreach ($rows as $row) {
            yield [(int) $row->id];
        }
    }
}
