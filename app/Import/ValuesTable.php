<?php

declare(strict_types=1);

namespace App\Import;

use App\Support\Refused;
use App\Tables\TableFile;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Nearest;

/**
 * A table that says what the values of files are: a row a file, with a column `file`, perhaps `type`, and one for each field, named by
 * its code or as it is labelled. Several values of a field are split at `|`.
 */
final class ValuesTable
{
    private const FILE = 'file';

    private const TYPE = 'type';

    /**
     * @param  array<string, FieldDefinition>  $fields  those that may be named, by code
     * @return array<string, RowSheet> by file
     *
     * @throws Refused when it is no such table
     */
    public static function read(string $path, array $fields): array
    {
        $columns = null;
        $sheets = [];
        foreach ((new TableFile($path))->rows() as $row) {
            if ($columns === null) {
                $columns = self::columns($row, $fields);

                continue;
            }
            $file = $type = '';
            $values = [];
            foreach ($columns as $i => $name) {
                $cell = $row[$i] ?? '';
                if ($name === self::FILE) {
                    $file = $cell;
                } elseif ($name === self::TYPE) {
                    $type = trim($cell);
                } elseif (trim($cell) !== '') {
                    $values[$name] = $fields[$name]->multiple ? explode('|', $cell) : [$cell];
                }
            }
            if (trim($file) !== '') {
                $sheets[$file] = new RowSheet($type, $values);
            }
        }

        return $sheets;
    }

    /**
     * @param  list<string>  $head
     * @param  array<string, FieldDefinition>  $fields
     * @return array<int, string> what the columns hold, by their place; those without a name are passed over
     */
    private static function columns(array $head, array $fields): array
    {
        $known = [self::FILE, self::TYPE, ...array_keys($fields)];
        $byLabel = [];
        foreach ($fields as $code => $field) {
            $byLabel[mb_strtolower($field->label)] ??= $code;
        }
        $columns = [];
        foreach ($head as $i => $name) {
            $name = trim($name);
            if ($name === '') {
                continue;
            }
            $lower = mb_strtolower($name);
            $code = match (true) {
                in_array($name, $known, true) => $name,
                $lower === self::FILE, $lower === self::TYPE => $lower,
                default => $byLabel[$lower] ?? null,
            };
            if ($code === null) {
                $near = Nearest::of($name, $known);
                throw new Refused(
                    "The table has a column “{$name}”, and there is no such field.".($near === null ? '' : " Did you mean “{$near}”?"),
                );
            }
            $columns[$i] = $code;
        }
        in_array(self::FILE, $columns, true) || throw new Refused('The table has no column “file”, so it does not say which file a row is for.');

        return $columns;
    }
}
