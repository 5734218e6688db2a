<?php

declare(strict_types=1);

namespace App\Design;

use App\Intake\Arrivals;
use App\Models\Document;
use Brenvic\Core\Design\StoredValues;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** The values of filed documents, and of dossiers, in some libraries. */
final readonly class TableValues implements StoredValues
{
    private const CHUNK = 1_000;

    /** @param  list<int>  $libraries ids */
    public function __construct(private array $libraries)
    {
    }

    public function distinct(string $field): array
    {
        return $this->values($field)->groupBy('v.value')->selectRaw('v.value, count(distinct v.document_id) as documents')->pluck('documents', 'value')->map(static fn (mixed $documents): int => (int) $documents)->all();
    }

    public function several(string $field): int
    {
        return DB::query()->fromSub($this->values($field)->select('v.document_id')->groupBy('v.document_id')->havingRaw('count(*) > 1'), 'd')->count();
    }

    public function titled(string $type, array $fields): iterable
    {
        $ids = DB::table('fields')->whereIn('code', $fields)->pluck('code', 'id');
        $documents = $this->documents()->join('document_types as t', 't.id', '=', 'd.document_type_id')->where('t.code', $type)->select(['d.id', 'd.title', 'd.file_name']);
        foreach ($documents->orderBy('d.id')->lazy(self::CHUNK)->chunk(self::CHUNK) as $chunk) {
            $values = [];
            foreach (DB::table('effective_values')->whereIntegerInRaw('document_id', $chunk->pluck('id'))->whereIntegerInRaw('field_id', $ids->keys())->orderBy('position')->get() as $row) {
                $values[$row->document_id][$ids[$row->field_id]][] = (string) $row->value;
            }
            foreach ($chunk as $document) {
                yield ['title' => (string) $document->title, 'otherwise' => Arrivals::titleOf((string) $document->file_name), 'values' => $values[$document->id] ?? []];
            }
        }
    }

    public function dossiers(string $kind, ?string $without = null): int
    {
        return DB::table('dossiers as d')->where('kind', $kind)->whereIntegerInRaw('library_id', $this->libraries)
            ->when($without !== null, fn (Builder $q) => $q->whereNotExists(fn (Builder $v) => $v->from('dossier_values as v')->join('fields as f', 'f.id', '=', 'v.field_id')->whereColumn('v.dossier_id', 'd.id')->where('f.code', $without)))->count();
    }

    public function heirs(string $kind, string $field): int
    {
        $of = static fn (Builder $q, string $table, string $owner, string $column): Builder => $q->from("{$table} as v")->join('fields as f', 'f.id', '=', 'v.field_id')->where('f.code', $field)->whereColumn("v.{$owner}", $column);

        return $this->documents()->whereNotExists(fn (Builder $q) => $of($q, 'document_values', 'document_id', 'd.id'))
            ->whereExists(fn (Builder $q) => $q->from('document_dossier as dd')->join('dossiers', 'dossiers.id', '=', 'dd.dossier_id')->whereColumn('dd.document_id', 'd.id')->where('kind', $kind)
                ->whereExists(fn (Builder $v) => $of($v, 'dossier_values', 'dossier_id', 'dossiers.id')))->count();
    }

    private function documents(): Builder
    {
        return DB::table('documents as d')->where('d.state', Document::FILED)->whereNull('d.deleted_at')->whereIntegerInRaw('d.library_id', $this->libraries);
    }

    private function values(string $field): Builder
    {
        return $this->documents()->join('document_values as v', 'v.document_id', '=', 'd.id')->join('fields as f', 'f.id', '=', 'v.field_id')->where('f.code', $field);
    }
}
