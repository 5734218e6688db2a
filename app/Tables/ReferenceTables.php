<?php

declare(strict_types=1);

namespace App\Tables;

use App\Catalog\Catalog;
use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\TablePart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Illuminate\Database\ConnectionInterface;
use Illuminate\Support\Facades\DB;
use Throwable;

/** Looks up what reference tables fill in: rows of the design, or of an outside database. */
final readonly class ReferenceTables
{
    private const MOST_ROWS = 20_000;

    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * What the tables with a key field give for one of its values.
     *
     * @param  array<string, FieldDefinition>  $fields  those the person may see, by code
     * @return array{fills: array<string, string>, table: string|null, trouble: string|null} values by field code; the name of the table; why it could not be asked
     */
    public function lookUp(string $key, string $value, array $fields): array
    {
        $field = $fields[$key] ?? null;
        foreach ($this->catalog->design()->parts(TablePart::class) as $table) {
            if ($field === null || $table->key !== $key) {
                continue;
            }
            try {
                $row = $this->row($table, $field, $value);
            } catch (Throwable $fault) {
                return ['fills' => [], 'table' => $table->name, 'trouble' => self::trouble($table, $fault)];
            }
            if ($row !== null) {
                $fills = array_combine($table->fills, array_slice($row, 1));

                return [
                    'fills' => array_filter(array_intersect_key($fills, $fields), static fn (string $cell): bool => $cell !== ''),
                    'table' => $table->name,
                    'trouble' => null,
                ];
            }
        }

        return ['fills' => [], 'table' => null, 'trouble' => null];
    }

    /**
     * What follows a key that was changed: fields that are empty, or have what the key before gave, have what the new one
     * gives; what somebody typed otherwise is asked about.
     *
     * @param  array<string, string>  $now  first values as they are or were typed, by field code
     * @param  array<string, FieldDefinition>  $fields  those the person may see, by code
     * @return array{takes: array<string, string>, asks: array<string, string>, table: string|null, trouble: string|null} new values by field code, empty to be emptied
     */
    public function follow(string $key, string $was, string $value, array $now, array $fields): array
    {
        $before = trim($was) === '' ? [] : $this->lookUp($key, $was, $fields)['fills'];
        $found = trim($value) === '' ? ['fills' => [], 'table' => null, 'trouble' => null] : $this->lookUp($key, $value, $fields);
        $takes = $asks = [];
        // A table that cannot be asked says nothing of what belongs to the key.
        foreach ($found['trouble'] === null ? array_keys($before + $found['fills']) : [] as $code) {
            $new = self::normal($fields[$code], $found['fills'][$code] ?? '');
            $has = self::normal($fields[$code], $now[$code] ?? '');
            if ($has === $new) {
                continue;
            }
            if ($has === '' || $has === self::normal($fields[$code], $before[$code] ?? '')) {
                $takes[$code] = $new;
            } elseif ($new !== '') {
                $asks[$code] = $new;
            }
        }

        return ['takes' => $takes, 'asks' => $asks, 'table' => $found['table'], 'trouble' => $found['trouble']];
    }

    /**
     * A sheet whose keys changed, with what follows them; fields that were typed too stay as typed.
     *
     * @param  array<string, list<string>>  $before  normal forms
     * @param  array<string, list<string>>  $after
     * @param  array<string, FieldDefinition>  $fields  of the sheet, by code
     * @param  list<string>  $typed
     * @return array<string, list<string>>
     */
    public function followed(array $before, array $after, array $fields, array $typed): array
    {
        foreach ($this->catalog->design()->parts(TablePart::class) as $table) {
            $key = $table->key;
            [$was, $is] = [$before[$key][0] ?? '', $after[$key][0] ?? ''];
            if ($was === $is || ! isset($fields[$key])) {
                continue;
            }
            $now = array_map(static fn (array $list): string => $list[0] ?? '', $after);
            $open = array_diff_key($fields, array_flip(array_diff($typed, [$key])));
            foreach ($this->follow($key, $was, $is, $now, $open)['takes'] as $code => $value) {
                try {
                    $normal = $open[$code]->parse($value);
                    $after[$code] = $normal === null ? [] : [$normal];
                } catch (InvalidValue) {
                    // What an outside table has and the field refuses is for a person.
                }
            }
        }

        return $after;
    }

    /**
     * The labels of fields that a key fills in.
     *
     * @param  array<string, FieldDefinition>  $fields  those the person may see, by code
     * @return list<string>
     */
    public function filledBy(string $key, array $fields): array
    {
        $codes = [];
        foreach ($this->catalog->design()->parts(TablePart::class) as $table) {
            $codes = $table->key === $key ? [...$codes, ...$table->fills] : $codes;
        }

        return array_values(
            array_map(static fn (FieldDefinition $f): string => $f->label, array_intersect_key($fields, array_flip($codes))),
        );
    }

    private static function normal(FieldDefinition $field, string $text): string
    {
        try {
            return $field->parse($text) ?? '';
        } catch (InvalidValue) {
            return $text;
        }
    }

    /**
     * Whether the source of a table answers.
     *
     * @return array{works: bool, says: string}
     */
    public static function state(TablePart $table): array
    {
        if (! $table->isOutside) {
            return ['works' => true, 'says' => count($table->rows).' rows in the design.'];
        }
        try {
            $since = hrtime(true);
            $query = self::outside($table)->table($table->outside);
            $rows = $query->count();
            $query->limit(1)->get($table->columns);

            return [
                'works' => true,
                'says' => sprintf('“%s” answers in %d ms and has %d rows.', $table->connection, (hrtime(true) - $since) / 1e6, $rows),
            ];
        } catch (Throwable $fault) {
            return ['works' => false, 'says' => self::trouble($table, $fault)];
        }
    }

    /**
     * Reads the rows of a CSV file (RFC 4180, UTF-8): the first line names the columns by field codes or labels.
     *
     * @param  array<string, FieldDefinition>  $fields  by code
     * @return array{key: string, fills: list<string>, rows: list<list<string>>}
     *
     * @throws Refused
     */
    public static function read(string $csv, array $fields): array
    {
        $stream = fopen('php://temp', 'r+b');
        if ($stream === false || ! mb_check_encoding($csv, 'UTF-8')) {
            throw new Refused('The file is not CSV in UTF-8.');
        }
        fwrite($stream, (string) preg_replace('/^\x{FEFF}/u', '', $csv));
        rewind($stream);
        $columns = [];
        foreach (fgetcsv($stream, escape: '') ?: [] as $name) {
            $code =
                self::code(trim((string) $name), $fields) ??
                throw new Refused("There is no field “{$name}”. The first line names the columns by field codes or labels.");
            $columns[] = in_array($code, $columns, true) ? throw new Refused("The column “{$name}” appears twice.") : $code;
        }
        if (count($columns) < 2) {
            throw new Refused('The table needs a column for the key and one more at least.');
        }
        $rows = [];
        $keys = [];
        for ($line = 2; ($row = fgetcsv($stream, escape: '')) !== false; $line++) {
            if ($row === [null]) {
                continue;
            }
            $cells = array_map(static fn (int $i): string => trim((string) ($row[$i] ?? '')), array_keys($columns));
            try {
                foreach ($cells as $i => $cell) {
                    $cells[$i] = $cell === '' ? '' : (string) $fields[$columns[$i]]->parse($cell);
                }
            } catch (InvalidValue $fault) {
                throw new Refused("Line {$line}: {$fault->getMessage()}");
            }
            if ($cells[0] === '' || isset($keys[$cells[0]])) {
                throw new Refused(
                    "Line {$line}: ".
                        ($cells[0] === '' ? 'the key is empty.' : "the key {$cells[0]} stands in line {$keys[$cells[0]]} too."),
                );
            }
            $keys[$cells[0]] = $line;
            $rows[] = $cells;
            if (count($rows) > self::MOST_ROWS) {
                throw new Refused('A table in the design has 20 000 rows at most. Keep a larger one in an outside database.');
            }
        }

        return ['key' => $columns[0], 'fills' => array_slice($columns, 1), 'rows' => $rows];
    }

    /** @param  array<string, FieldDefinition>  $fields */
    private static function code(string $name, array $fields): ?string
    {
        foreach ($fields as $code => $field) {
            if ($name === $code || mb_strtolower($name) === mb_strtolower($field->label)) {
                return $code;
            }
        }

        return null;
    }

    /** @return list<string>|null the key and what it fills */
    private function row(TablePart $table, FieldDefinition $key, string $value): ?array
    {
        try {
            $value = $key->parse($value) ?? '';
        } catch (InvalidValue) {
            return null;
        }
        if (! $table->isOutside) {
            foreach ($table->rows as $row) {
                if ($row[0] === $value) {
                    return $row;
                }
            }

            return null;
        }
        $columns = $table->columns;
        $row = self::outside($table)->table($table->outside)->where($columns[0], $value)->first($columns);

        return $row === null ? null : array_map(static fn (string $column): string => (string) $row->{$column}, $columns);
    }

    private static function outside(TablePart $table): ConnectionInterface
    {
        $name = $table->connection;
        $setting = config("brenvic.outside.{$name}");
        if (! is_array($setting)) {
            throw new Refused("There is no outside connection “{$name}” in the configuration.");
        }
        config(["database.connections.outside_{$name}" => $setting]);

        return DB::connection("outside_{$name}");
    }

    private static function trouble(TablePart $table, Throwable $fault): string
    {
        return $fault instanceof Refused
            ? $fault->getMessage()
            : "The outside table “{$table->name}” does not answer. Fill these fields in by hand; what is typed is kept.";
    }
}
