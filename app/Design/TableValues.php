<?php

declare(strict_types=1);

namespace App\Design;

use App\Files\FileTitle;
use App\Models\Document;
use Brenvic\Core\Design\Returned;
use Brenvic\Core\Design\StoredValues;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** The values of filed documents, and of dossiers, in some libraries. */
final class TableValues implements StoredValues
{
    private const CHUNK = 1_000;

    /** @var array<string, Returned>|null by field */
    private ?array $returned = null;

    /** @var array<int, array<string, list<string>>> document => field => values, of those that a version brought back changes */
    private array $restored = [];

    /**
     * @param  list<int>  $libraries ids
     * @param  ReturnedValues|null  $back  what is given back before anything else changes
     */
    public function __construct(private readonly array $libraries, private readonly ?ReturnedValues $back = null)
    {
    }

    public function returned(string $field): Returned
    {
        $this->returned ??= $this->back === null ? [] : $this->restore($this->back);

        return $this->returned[$field] ?? Returned::nothing();
    }

    /** @return array<string, Returned> */
    private function restore(ReturnedValues $back): array
    {
        $seen = DocumentSet::of($this->documents()->orderBy('d.id')->pluck('d.id'));
        $come = $go = $given = $left = $emptied = $single = [];
        foreach ($back->each('document_id') as $id => [$cells, $restored]) {
            if (! $seen->has($id)) {
                continue;
            }
            foreach ($restored->fields() as $field) {
                [$was, $is] = [array_values($cells[$field] ?? []), array_values($restored->cells[$field] ?? [])];
                $this->restored[$id][$field] = $is;
                foreach (array_unique(array_diff($is, $was)) as $value) {
                    $come[$field][$value] = 1 + ($come[$field][$value] ?? 0);
                    $given[$field][$id] = $id;
                }
                foreach (array_unique(array_diff($was, $is)) as $value) {
                    $go[$field][$value] = 1 + ($go[$field][$value] ?? 0);
                    $left[$field][$id] = $id;
                }
                $is === [] && $was !== [] ? ($emptied[$field][] = $id) : null;
                $single[$field] = ($single[$field] ?? 0) + (count($was) > 1 && count($is) < 2 ? 1 : 0);
            }
        }
        $made = [];
        foreach ($single as $field => $count) {
            $made[$field] = new Returned(
                $come[$field] ?? [],
                $go[$field] ?? [],
                DocumentSet::of($given[$field] ?? []),
                DocumentSet::of($left[$field] ?? []),
                DocumentSet::of($emptied[$field] ?? []),
                $count,
            );
        }

        return $made;
    }

    public function distinct(string $field): array
    {
        $stored = $this->stored($field);
        foreach ($this->returned($field)->go as $value => $documents) {
            $stored[$value] = ($stored[$value] ?? 0) - $documents;
        }

        return array_filter($stored, static fn (int $documents): bool => $documents > 0);
    }

    /** @return array<int|string, int> */
    private function stored(string $field): array
    {
        return $this->values($field)
            ->groupBy('v.value')
            ->selectRaw('v.value, count(distinct v.document_id) as documents')
            ->pluck('documents', 'value')
            ->map(static fn (mixed $documents): int => (int) $documents)
            ->all();
    }

    public function several(string $field): int
    {
        return DB::query()
            ->fromSub($this->values($field)->select('v.document_id')->groupBy('v.document_id')->havingRaw('count(*) > 1'), 'd')
            ->count() - $this->returned($field)->single;
    }

    public function titled(string $type, array $fields): iterable
    {
        $ids = DB::table('fields')->whereIn('code', $fields)->pluck('code', 'id');
        $documents = $this->documents()
            ->join('document_types as t', 't.id', '=', 'd.document_type_id')
            ->where('t.code', $type)
            ->select(['d.id', 'd.title', 'd.file_name']);
        $this->returned('');
        foreach ($documents->orderBy('d.id')->lazy(self::CHUNK)->chunk(self::CHUNK) as $chunk) {
            $values = [];
            foreach (
                DB::table('effective_values')
                    ->whereIntegerInRaw('document_id', $chunk->pluck('id'))
                    ->whereIntegerInRaw('field_id', $ids->keys())
                    ->orderBy('position')
                    ->get() as $row
            ) {
                $values[$row->document_id][$ids[$row->field_id]][] = (string) $row->value;
            }
            foreach ($chunk as $document) {
                yield [
                    'title' => (string) $document->title,
                    'otherwise' => FileTitle::of((string) $document->file_name),
                    'values' => [...$values[$document->id] ?? [], ...$this->restored[$document->id] ?? []],
                ];
            }
        }
    }

    public function dossiers(string $kind, ?string $without = null): int
    {
        return DB::table('dossiers as d')
            ->where('kind', $kind)
            ->whereIntegerInRaw('library_id', $this->libraries)
            ->when(
                $without !== null,
                fn (Builder $q) => $q->whereNotExists(
                    fn (Builder $v) => $v
                        ->from('dossier_values as v')
                        ->join('fields as f', 'f.id', '=', 'v.field_id')
                        ->whereColumn('v.dossier_id', 'd.id')
                        ->where('f.code', $without),
                ),
            )
            ->count();
    }

    public function heirs(string $kind, string $field): int
    {
        $of = static fn (Builder $q, string $table, string $owner, string $column): Builder => $q
            ->from("{$table} as v")
            ->join('fields as f', 'f.id', '=', 'v.field_id')
            ->where('f.code', $field)
            ->whereColumn("v.{$owner}", $column);

        return $this->documents()
            ->whereNotExists(fn (Builder $q) => $of($q, 'document_values', 'document_id', 'd.id'))
            ->whereExists(
                fn (Builder $q) => $q
                    ->from('document_dossier as dd')
                    ->join('dossiers', 'dossiers.id', '=', 'dd.dossier_id')
                    ->whereColumn('dd.document_id', 'd.id')
                    ->where('kind', $kind)
                    ->whereExists(fn (Builder $v) => $of($v, 'dossier_values', 'dossier_id', 'dossiers.id')),
            )
            ->count();
    }

    private function documents(): Builder
    {
        return DB::table('documents as d')
            ->where('d.state', Document::FILED)
            ->whereNull('d.deleted_at')
            ->whereIntegerInRaw('d.library_id', $this->libraries);
    }

    private function values(string $field): Builder
    {
        return $this->documents()
            ->join('document_values as v', 'v.document_id', '=', 'd.id')
            ->join('fields as f', 'f.id', '=', 'v.field_id')
            ->where('f.code', $field);
    }
}
