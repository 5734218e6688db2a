<?php

declare(strict_types=1);

namespace App\Index;

use Brenvic\Core\Search\Order\DocumentNames;
use Illuminate\Support\Facades\DB;

/** Titles and file names. */
final class Names implements DocumentNames
{
    public function of(string $name, array $documents): array
    {
        $names = [];
        foreach (array_chunk($documents, 1_000) as $chunk) {
            foreach (DB::table('documents')->whereIntegerInRaw('id', $chunk)->get(['id', $name]) as $row) {
                $names[(int) $row->id] = (string) $row->{$name};
            }
        }

        return $names;
    }
}
