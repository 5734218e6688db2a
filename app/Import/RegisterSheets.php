<?php

declare(strict_types=1);

namespace App\Import;

use App\Support\Refused;
use App\Tables\TableFile;
use Brenvic\Core\Design\Proposal\DossierRows;
use Brenvic\Core\Design\Proposal\Mapping;

/** The index sheets of an import by an accepted proposal: of the rows of a register, or of the folders that files lie in. */
final class RegisterSheets
{
    /** So many rows tell which column names the files. */
    private const SAMPLE = 2_000;

    /**
     * @param  array<string, string>  $files  by their names within the import
     * @return array<string, RowSheet> by file; rows without a file by what names it
     *
     * @throws Refused when no column names the files
     */
    public static function ofTable(string $path, Mapping $mapping, array $files): array
    {
        $byName = self::names($files);
        $column = self::fileColumn($path, $byName);
        $read = [];
        foreach ((new TableFile($path))->rows() as $i => $row) {
            $cell = trim($row[$column] ?? '');
            if ($i > 0 && $cell !== '') {
                $read[$byName[mb_strtolower($cell)] ?? $cell] = $mapping->values($row);
            }
        }
        $gathered = array_map(static fn (DossierRows $of): GatheredValues => GatheredValues::of($of, $read), $mapping->dossiers);

        return array_map(static function (array $row) use ($gathered): RowSheet {
            $dossiers = [];
            foreach ($gathered as $of) {
                $shared = $of->beside($row['values']);
                if ($shared !== []) {
                    $dossiers[$of->rows->kind] = $shared;
                }
            }

            return new RowSheet($row['type'], $row['values'], $dossiers, true);
        }, $read);
    }

    /**
     * @param  array<string, string>  $files
     * @return array<string, RowSheet>
     */
    public static function ofFolders(Mapping $mapping, array $files): array
    {
        $folders = [];
        foreach (array_keys($files) as $name) {
            $folders[(string) $name] = array_slice(explode('/', (string) $name), 0, -1);
        }
        $above = $mapping->above(array_values($folders));
        $sheets = [];
        foreach ($folders as $name => $parts) {
            $name = (string) $name;
            ['type' => $type, 'values' => $values] = $mapping->valuesOfPath(array_slice($parts, $above), basename($name));
            $sheets[$name] = new RowSheet($type, $values, [], true);
        }

        return $sheets;
    }

    /**
     * A file is named by its path, its name, or its name without the ending, where no other is called so.
     *
     * @param  array<string, string>  $files
     * @return array<string, string> what may stand in a cell => name within the import
     */
    private static function names(array $files): array
    {
        $names = $times = [];
        foreach (array_keys($files) as $name) {
            $name = (string) $name;
            foreach (array_unique([$name, basename($name), pathinfo($name, PATHINFO_FILENAME)]) as $called) {
                $called = mb_strtolower($called);
                $names[$called] = $name;
                $times[$called] = ($times[$called] ?? 0) + 1;
            }
        }

        return array_filter($names, static fn (string $called): bool => $times[$called] === 1, ARRAY_FILTER_USE_KEY);
    }

    /**
     * @param  array<string, string>  $byName
     *
     * @throws Refused
     */
    private static function fileColumn(string $path, array $byName): int
    {
        $hits = [];
        foreach ((new TableFile($path))->rows() as $i => $row) {
            if ($i > self::SAMPLE) {
                break;
            }
            foreach ($row as $column => $cell) {
                if (isset($byName[mb_strtolower(trim($cell))])) {
                    $hits[$column] = ($hits[$column] ?? 0) + 1;
                }
            }
        }
        arsort($hits);

        return array_key_first($hits) ?? throw new Refused('No column of the table names the files: by path, by name or by name without the ending.');
    }
}
