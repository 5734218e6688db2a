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
use stdClass;

/**
 * What publishing a version of the design does to the values that documents and dossiers have. Each value that changes is
 * kept with what it was, so that bringing an older version back brings the values back that nobody has changed since.
 */
final readonly class ValueChanges
{
    private const CHUNK = 500;

    /** The tables of values and the column that names whose they are. */
    private const OWNERS = ['document_values' => 'document_id', 'dossier_values' => 'dossier_id'];

    public function __construct(private int $version)
    {
    }

    /** Writes all values of a field in its new kind. */
    public function convert(FieldDefinition $was, FieldDefinition $is): void
    {
        $id = self::id($is->code);
        foreach (self::OWNERS as $table => $owner) {
            foreach ($this->unrestored($table, $owner, $id, $is->code)->distinct()->pluck('value') as $value) {
                $normal = self::written($was, $is, (string) $value);
                if ($normal !== (string) $value) {
                    $rows = $this->unrestored($table, $owner, $id, $is->code)->where('value', $value);
                    $this->keep($rows, $owner, $was->code, $is->code, 'position', $normal);
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
        foreach (self::OWNERS as $table => $owner) {
            if ($only !== null && $owner !== 'document_id') {
                continue;
            }
            $ids = $only?->documents();
            foreach ($ids === null ? [null] : array_chunk($ids, self::CHUNK) as $chunk) {
                $rows = fn (bool $hasBoth): Builder => DB::table($table)->where('field_id', $id)->where('value', $from)
                    ->when($chunk !== null, fn (Builder $q) => $q->whereIntegerInRaw($owner, $chunk ?? []))
                    ->whereExists(fn (Builder $q) => $q->from("{$table} as other")->whereColumn("other.{$owner}", "{$table}.{$owner}")->where('other.field_id', $id)->where('other.value', $to), not: ! $hasBoth);
                $this->keep($rows(true), $owner, $field, null, null, null);
                $rows(true)->delete();
                $this->keep($rows(false), $owner, $field, $field, 'position', $to);
                $rows(false)->update(['value' => $to]);
            }
        }
    }

    /** Moves the values of a field that is taken out into another. Who has a value there keeps it, unless it takes several. */
    public function merge(FieldDefinition $was, FieldDefinition $into): void
    {
        [$from, $to] = [self::id($was->code), self::id($into->code)];
        foreach (self::OWNERS as $table => $owner) {
            foreach (DB::table($table)->where('field_id', $from)->distinct()->pluck('value') as $value) {
                $normal = self::written($was, $into, (string) $value);
                $rows = fn (bool $hasOther): Builder => DB::table($table)->where('field_id', $from)->where('value', $value)
                    ->whereExists(fn (Builder $q) => $q->from("{$table} as other")->whereColumn("other.{$owner}", "{$table}.{$owner}")->where('other.field_id', $to)
                        ->when($into->multiple, fn (Builder $same) => $same->where('other.value', $normal)), not: ! $hasOther);
                $this->keep($rows(true), $owner, $was->code, null, null, null);
                $last = (int) DB::table('value_changes')->max('id');
                $this->keep($rows(false), $owner, $was->code, $into->code, "(SELECT coalesce(max(o.position) + 1, 0) FROM {$table} o WHERE o.{$owner} = {$table}.{$owner} AND o.field_id = {$to})", $normal);
                DB::table($table)->where('field_id', $from)->where('value', $value)->delete();
                DB::table($table)->insertUsing([$owner, 'field_id', 'position', 'value'], DB::table('value_changes')->where('id', '>', $last)->select($owner)->selectRaw('?', [$to])->addSelect(['new_position', 'new_value']));
            }
        }
    }

    /** Gives back the values that were changed by the versions after one, where nobody has changed them since. */
    public function restore(int $version): void
    {
        $ids = Field::query()->pluck('id', 'code');
        $query = DB::table('value_changes')->where('design_version_id', '>', $version)->where('design_version_id', '<', $this->version)->whereNull('undone_by')->orderByDesc('id');
        foreach ($query->lazy(self::CHUNK) as $row) {
            if (isset($ids[$row->field]) && $this->giveBack($row, $ids->all())) {
                DB::table('value_changes')->where('id', $row->id)->update(['undone_by' => $this->version]);
            }
        }
    }

    /** @param  array<string, int>  $ids */
    private function giveBack(stdClass $row, array $ids): bool
    {
        [$table, $owner] = $row->document_id === null ? ['dossier_values', 'dossier_id'] : ['document_values', 'document_id'];
        $at = static fn (string $field, int $position): Builder => DB::table($table)->where($owner, $row->{$owner})->where('field_id', $ids[$field] ?? 0)->where('position', $position);
        if ($row->new_field !== null) {
            if (! $at($row->new_field, (int) $row->new_position)->where('value', $row->new_value)->exists()) {
                return false;
            }
            $at($row->new_field, (int) $row->new_position)->delete();
        }
        if ($at($row->field, (int) $row->position)->exists()) {
            return false;
        }

        return DB::table($table)->insert([$owner => $row->{$owner}, 'field_id' => $ids[$row->field], 'position' => $row->position, 'value' => $row->value]);
    }

    /** The values of a field but those this publication gave back: they are in the form that comes into use. */
    private function unrestored(string $table, string $owner, int $id, string $field): Builder
    {
        return DB::table($table)->where('field_id', $id)->whereNotExists(fn (Builder $q) => $q->from('value_changes')->where('undone_by', $this->version)
            ->whereColumn("value_changes.{$owner}", "{$table}.{$owner}")->where('value_changes.field', $field)->whereColumn('value_changes.position', "{$table}.position"));
    }

    /** @param  string|null  $position  an expression for the new position; null when the value is put aside */
    private function keep(Builder $rows, string $owner, string $field, ?string $newField, ?string $position, ?string $value): void
    {
        $table = (string) $rows->from;
        DB::table('value_changes')->insertUsing(
            ['design_version_id', $owner, 'field', 'position', 'value', 'new_field', 'new_position', 'new_value'],
            $rows->clone()->selectRaw('?', [$this->version])->addSelect("{$table}.{$owner}")->selectRaw('?', [$field])->addSelect(["{$table}.position", "{$table}.value"])
                ->selectRaw('?', [$newField])->selectRaw($position === null ? 'NULL' : ($position === 'position' ? "{$table}.position" : $position))->selectRaw('?', [$value]),
        );
    }

    /** @throws Refused when it cannot be written so: the effect named it, unless only others may see the document */
    private static function written(FieldDefinition $was, FieldDefinition $is, string $value): string
    {
        try {
            return $is->parse($was->kind === $is->kind ? $value : $was->display($value)) ?? $value;
        } catch (InvalidValue) {
            throw new Refused("{$was->label} has values that cannot be taken over. Some may be in documents that you may not see.");
        }
    }

    private static function id(string $field): int
    {
        return (int) Field::query()->where('code', $field)->value('id');
    }
}
