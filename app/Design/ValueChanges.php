<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\Field;
use App\Support\Refused;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use LogicException;

/**
 * What publishing a version of the design does to the values that documents and dossiers have. Each value that changes is
 * kept with what it was, so that bringing an older version back brings the values back that nobody has changed since.
 */
final readonly class ValueChanges
{
    private const CHUNK = 500;

    /** The column that names whose values they are, and their table. */
    public const TABLES = ['document_id' => 'document_values', 'dossier_id' => 'dossier_values'];

    public function __construct(private int $version)
    {
    }

    /** Writes all values of a field in its new kind. */
    public function convert(FieldDefinition $was, FieldDefinition $is): void
    {
        $id = self::id($is->code);
        foreach (self::TABLES as $owner => $table) {
            foreach ($this->unrestored($table, $owner, $id, $is->code)->distinct()->pluck('value') as $value) {
                $normal = self::written($was, $is, (string) $value);
                if ($normal !== (string) $value) {
                    $rows = $this->unrestored($table, $owner, $id, $is->code)->where('value', $value);
                    $this->keep($rows, $owner, $was->code, ['field' => $is->code, 'position' => 'position', 'value' => $normal]);
                    $rows->update(['value' => $normal]);
                }
            }
        }
    }

    /**
     * Gives what has a term another one.
     *
     * @param  DocumentSet|null  $only  just these documents; null for all, and dossiers too
     */
    public function replace(string $field, string $from, string $to, ?DocumentSet $only = null): void
    {
        $id = self::id($field);
        foreach (self::TABLES as $owner => $table) {
            if ($only !== null && $owner !== 'document_id') {
                continue;
            }
            $ids = $only?->documents();
            foreach ($ids === null ? [null] : array_chunk($ids, self::CHUNK) as $chunk) {
                $rows = fn (bool $hasBoth): Builder => DB::table($table)
                    ->where('field_id', $id)
                    ->where('value', $from)
                    ->when($chunk !== null, fn (Builder $q) => $q->whereIntegerInRaw($owner, $chunk ?? []))
                    ->whereExists(
                        fn (Builder $q) => $q
                            ->from("{$table} as other")
                            ->whereColumn("other.{$owner}", "{$table}.{$owner}")
                            ->where('other.field_id', $id)
                            ->where('other.value', $to),
                        not: ! $hasBoth,
                    );
                $this->keep($rows(true), $owner, $field, ['field' => $field, 'position' => null, 'value' => $to]);
                $rows(true)->delete();
                $this->keep($rows(false), $owner, $field, ['field' => $field, 'position' => 'position', 'value' => $to]);
                $rows(false)->update(['value' => $to]);
            }
        }
    }

    /** Moves the values of a field that is taken out into another. Who has a value there keeps it, unless it takes several. */
    public function merge(FieldDefinition $was, FieldDefinition $into): void
    {
        [$from, $to] = [self::id($was->code), self::id($into->code)];
        foreach (self::TABLES as $owner => $table) {
            foreach (DB::table($table)->where('field_id', $from)->distinct()->pluck('value') as $value) {
                $normal = self::written($was, $into, (string) $value);
                $rows = fn (bool $hasOther): Builder => DB::table($table)->where('field_id', $from)->where('value', $value)->whereExists(
                    fn (Builder $q) => $q
                        ->from("{$table} as other")
                        ->whereColumn("other.{$owner}", "{$table}.{$owner}")
                        ->where('other.field_id', $to)
                        ->when($into->multiple, fn (Builder $same) => $same->where('other.value', $normal)),
                    not: ! $hasOther,
                );
                $this->keepAside($rows(true), $owner, $was->code, $into->code, $to);
                $last = (int) DB::table('value_changes')->max('id');
                $of = "FROM {$table} o WHERE o.{$owner} = {$table}.{$owner} AND o.field_id = {$to}";
                $behind = "(SELECT coalesce(max(o.position) + 1, 0) {$of})";
                $this->keep($rows(false), $owner, $was->code, ['field' => $into->code, 'position' => $behind, 'value' => $normal]);
                DB::table($table)->where('field_id', $from)->where('value', $value)->delete();
                DB::table($table)->insertUsing(
                    [$owner, 'field_id', 'position', 'value'],
                    DB::table('value_changes')
                        ->where('id', '>', $last)
                        ->select($owner)
                        ->selectRaw('?', [$to])
                        ->addSelect(['new_position', 'new_value']),
                );
            }
        }
    }

    /** Gives back the values that were changed by the versions after one, where nobody has changed them since. */
    public function restore(ReturnedValues $returned): void
    {
        $ids = Field::query()->pluck('id', 'code')->all();
        foreach (self::TABLES as $owner => $table) {
            $put = $log = [];
            foreach ($returned->each($owner, $this->version) as $id => [, $restored]) {
                $fields = array_intersect_key($ids, array_fill_keys($restored->fields(), true));
                DB::table($table)->where($owner, $id)->whereIntegerInRaw('field_id', $fields)->delete();
                foreach ($fields as $code => $field) {
                    foreach ($restored->cells[$code] ?? [] as $position => $value) {
                        $put[] = [$owner => $id, 'field_id' => $field, 'position' => $position, 'value' => $value];
                    }
                }
                foreach ($restored->steps as $step) {
                    $log[] = [
                        'design_version_id' => $this->version,
                        $owner => $id,
                        'field' => $step->field,
                        'position' => $step->position,
                        'value' => $step->value,
                        'new_field' => $step->newField,
                        'new_position' => $step->newPosition,
                        'new_value' => $step->newValue,
                    ];
                }
                if (count($put) > self::CHUNK) {
                    self::insert($table, $put, $log);
                    $put = $log = [];
                }
            }
            self::insert($table, $put, $log);
        }
    }

    /**
     * @param  list<array<string, mixed>>  $values
     * @param  list<array<string, mixed>>  $log
     */
    private static function insert(string $table, array $values, array $log): void
    {
        foreach ([$table => $values, 'value_changes' => $log] as $into => $rows) {
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                DB::table($into)->insert($chunk);
            }
        }
    }

    /** The values of a field but those this publication gave back: they are in the form that comes into use. */
    private function unrestored(string $table, string $owner, int $id, string $field): Builder
    {
        return DB::table($table)->where('field_id', $id)->whereNotExists(
            fn (Builder $q) => $q
                ->from('value_changes')
                ->where('design_version_id', $this->version)
                ->whereColumn("value_changes.{$owner}", "{$table}.{$owner}")
                ->where('new_field', $field)
                ->whereColumn('new_position', "{$table}.position")
                ->whereColumn('new_value', "{$table}.value"),
        );
    }

    /**
     * @param  array{field: string, position: string|null, value: string|null}  $new  position is an expression; null when the
     *                                                                              value is put aside for another
     */
    private function keep(Builder $rows, string $owner, string $field, array $new): void
    {
        $position = $new['position'];
        $table = self::table($rows);
        DB::table('value_changes')->insertUsing(
            ['design_version_id', $owner, 'field', 'position', 'value', 'new_field', 'new_position', 'new_value'],
            $rows
                ->clone()
                ->selectRaw('?', [$this->version])
                ->addSelect("{$table}.{$owner}")
                ->selectRaw('?', [$field])
                ->addSelect(["{$table}.position", "{$table}.value"])
                ->selectRaw('?', [$new['field']])
                ->selectRaw($position === null ? 'NULL' : ($position === 'position' ? "{$table}.position" : $position))
                ->selectRaw('?', [$new['value']]),
        );
    }

    /** Keeps values that give way to what the documents have in another field. */
    private function keepAside(Builder $rows, string $owner, string $field, string $instead, int $insteadId): void
    {
        $table = self::table($rows);
        $has = "(SELECT o.value FROM {$table} o WHERE o.{$owner} = {$table}.{$owner} AND o.field_id = {$insteadId} ORDER BY o.position LIMIT 1)";
        DB::table('value_changes')->insertUsing(
            ['design_version_id', $owner, 'field', 'position', 'value', 'new_field', 'new_value'],
            $rows
                ->clone()
                ->selectRaw('?', [$this->version])
                ->addSelect("{$table}.{$owner}")
                ->selectRaw('?', [$field])
                ->addSelect(["{$table}.position", "{$table}.value"])
                ->selectRaw('?', [$instead])
                ->selectRaw($has),
        );
    }

    /** @throws Refused when it cannot be written so: the effect named it, unless only others may see the document */
    private static function written(FieldDefinition $was, FieldDefinition $is, string $value): string
    {
        try {
            return $is->parse($was->kind->value === $is->kind->value ? $value : $was->display($value)) ?? $value;
        } catch (InvalidValue) {
            throw new Refused("{$was->label} has values that cannot be taken over. Some may be in documents that you may not see.");
        }
    }

    private static function table(Builder $rows): string
    {
        return is_string($rows->from) ? $rows->from : throw new LogicException('The rows of a table by its name.');
    }

    private static function id(string $field): int
    {
        return (int) Field::query()->where('code', $field)->value('id');
    }
}
