<?php

declare(strict_types=1);

namespace App\Import;

use App\Catalog\Catalog;
use App\Support\Refused;
use Brenvic\Core\Fields\Nearest;

/** The values file of an import: CSV (RFC 4180, UTF-8) with a column `file`. Several values of a field are split at `|`. */
final class ValuesTable
{
    /**
     * @return array<string, RowSheet> by file
     *
     * @throws Refused when it is no such table
     */
    public static function read(string $path, Catalog $catalog): array
    {
        $stream = @fopen($path, 'rb');
        if ($stream === false) {
            throw new Refused("The values file “{$path}” cannot be opened.");
        }
        try {
            $head = fgetcsv($stream, escape: '');
            $head = array_map(
                static fn (?string $name): string => trim((string) preg_replace('/^\x{FEFF}/u', '', (string) $name)),
                $head ?: [],
            );
            if (! in_array('file', $head, true)) {
                throw new Refused('The values file has no column “file”.');
            }
            $known = ['file', 'type', ...array_keys($catalog->fields())];
            foreach (array_diff($head, $known) as $name) {
                $near = Nearest::of($name, $known);
                throw new Refused(
                    "The values file has a column “{$name}”, and there is no such field.".
                        ($near === null ? '' : " Did you mean “{$near}”?"),
                );
            }
            $sheets = [];
            while (($row = fgetcsv($stream, escape: '')) !== false) {
                if ($row === [null]) {
                    continue;
                }
                $file = $type = '';
                $values = [];
                foreach ($head as $i => $name) {
                    $cell = (string) ($row[$i] ?? '');
                    if ($name === 'file') {
                        $file = $cell;
                    } elseif ($name === 'type') {
                        $type = trim($cell);
                    } elseif (trim($cell) !== '') {
                        $field = $catalog->fields()[$name];
                        $values[$name] = $field->multiple ? explode('|', $cell) : [$cell];
                    }
                }
                $sheets[$file] = new RowSheet($type, $values);
            }

            return $sheets;
        } finally {
            fclose($stream);
        }
    }
}
