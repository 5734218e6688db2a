<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\Document;
use Brenvic\Core\Design\StoredValues;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** The values of filed documents in some libraries. */
final readonly class TableValues implements StoredValues
{
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

    private function values(string $field): Builder
    {
        return DB::table('document_values as v')
            ->join('fields as f', 'f.id', '=', 'v.field_id')->where('f.code', $field)
            ->join('documents as d', 'd.id', '=', 'v.document_id')->where('d.state', Document::FILED)->whereNull('d.deleted_at')->whereIn('d.library_id', $this->libraries);
    }
}
