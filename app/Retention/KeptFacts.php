<?php

declare(strict_types=1);

namespace App\Retention;

use App\Catalog\Catalog;
use App\Support\Column;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Procedures\Record\Status;
use Brenvic\Core\Retention\Facts\KeptDocument;
use Brenvic\Core\Retention\Keeping;
use Brenvic\Core\Retention\Rules;
use Illuminate\Support\Facades\DB;

/** How long documents are kept by the rules of a design, as the tables say it of many at once. */
final readonly class KeptFacts
{
    public function __construct(private Catalog $catalog)
    {
    }

    /** The day that it is, as PartialDate counts days: what is due by it is due. */
    public static function today(): int
    {
        return PartialDate::parse(now()->toDateString())->firstDay();
    }

    /**
     * By the published rules.
     *
     * @param  list<int>  $ids
     * @return array<int, Keeping> by document, of those that are there
     */
    public function keepings(array $ids): array
    {
        $rules = $this->catalog->retention();

        return array_map($rules->of(...), $this->of([$rules], $ids));
    }

    /**
     * What rules ask about.
     *
     * @param  list<Rules>  $rules
     * @param  list<int>  $ids
     * @return array<int, KeptDocument> by document
     */
    public function of(array $rules, array $ids): array
    {
        $fields = array_merge([], ...array_map(static fn (Rules $of): array => $of->fields(), $rules));
        $superseding = array_merge([], ...array_map(static fn (Rules $of): array => $of->superseding(), $rules));
        $asksForProcedures = array_filter($rules, static fn (Rules $of): bool => $of->asksForProcedures()) !== [];
        $values = $this->values($fields, $ids);
        $dossiers = $this->dossiers($ids);
        $procedures = $asksForProcedures ? $this->procedures($ids) : [];
        $superseded = $this->superseded($superseding, $ids);
        $types = $this->catalog->types();
        $facts = [];
        foreach (
            DB::table('documents')
                ->whereIntegerInRaw('id', $ids)
                ->get(['id', 'document_type_id', 'filed_at', 'kept_from', 'kept_until', 'exempt_reason', 'destroyed_at']) as $row
        ) {
            $id = (int) $row->id;
            $day = static fn (mixed $at): ?string => $at === null ? null : substr((string) $at, 0, 10);
            $facts[$id] = new KeptDocument(
                $types->get((int) $row->document_type_id)?->code,
                $values[$id] ?? [],
                $day($row->filed_at),
                $dossiers[$id] ?? [],
                $procedures[$id] ?? [],
                $superseded[$id] ?? [],
                $day($row->kept_from),
                $day($row->kept_until),
                $row->exempt_reason === null ? null : (string) $row->exempt_reason,
                $row->destroyed_at !== null,
            );
        }

        return $facts;
    }

    /**
     * @param  list<string>  $codes
     * @param  list<int>  $ids
     * @return array<int, array<string, list<string>>> document => field code => normal forms
     */
    private function values(array $codes, array $ids): array
    {
        $fields = array_flip(array_intersect_key($this->catalog->fieldIds(), array_flip($codes)));
        $values = [];
        foreach (
            $fields === []
                ? []
                : DB::table('effective_values')
                    ->whereIntegerInRaw('document_id', $ids)
                    ->whereIntegerInRaw('field_id', array_keys($fields))
                    ->get(['document_id', 'field_id', 'value']) as $row
        ) {
            $values[(int) $row->document_id][(string) $fields[(int) $row->field_id]][] = (string) $row->value;
        }

        return $values;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, list<array{kind: string, closed: string|null}>> by document
     */
    private function dossiers(array $ids): array
    {
        $dossiers = [];
        foreach (
            DB::table('document_dossier')
                ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
                ->whereIntegerInRaw('document_id', $ids)
                ->get(['document_id', 'kind', 'closed_at']) as $row
        ) {
            $closed = $row->closed_at === null ? null : substr((string) $row->closed_at, 0, 10);
            $dossiers[(int) $row->document_id][] = ['kind' => (string) $row->kind, 'closed' => $closed];
        }

        return $dossiers;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, array<string, list<string|null>>> document => procedure => days on which its cases ended
     */
    private function procedures(array $ids): array
    {
        $procedures = [];
        foreach (
            DB::table('cases')
                ->whereIntegerInRaw('document_id', $ids)
                ->where('status', '!=', Status::GivenUp->value)
                ->get(['document_id', 'procedure', 'status', 'since']) as $row
        ) {
            $ended = $row->status === Status::Ended->value ? substr((string) $row->since, 0, 10) : null;
            $procedures[(int) $row->document_id][(string) $row->procedure][] = $ended;
        }

        return $procedures;
    }

    /**
     * @param  list<string>  $codes  of the fields in which the newer one names the other
     * @param  list<int>  $ids
     * @return array<int, array<string, string>> document => field => the day on which the newest was filed
     */
    private function superseded(array $codes, array $ids): array
    {
        $fields = array_flip(array_intersect_key($this->catalog->fieldIds(), array_flip($codes)));
        $superseded = [];
        foreach (
            $fields === []
                ? []
                : DB::table('documents as old')
                    ->join('document_values', 'document_values.value', '=', 'old.ref')
                    ->join('documents as new', 'new.id', '=', 'document_id')
                    ->whereIntegerInRaw('old.id', $ids)
                    ->whereIntegerInRaw('field_id', array_keys($fields))
                    ->whereNull('new.deleted_at')
                    ->whereNotNull('new.filed_at')
                    ->orderBy('new.filed_at')
                    ->get(['old.id', 'field_id', 'new.filed_at']) as $row
        ) {
            $superseded[(int) $row->id][(string) $fields[(int) $row->field_id]] = substr((string) $row->filed_at, 0, 10);
        }

        return $superseded;
    }

    /**
     * What else has to be looked at when some documents change: those that they supersede.
     *
     * @param  list<int>  $ids
     * @return list<int>
     */
    public function supersededBy(array $ids): array
    {
        $codes = $this->catalog->retention()->superseding();
        if ($codes === []) {
            return [];
        }
        $fields = array_values(array_intersect_key($this->catalog->fieldIds(), array_flip($codes)));

        return Column::numbers(
            DB::table('document_values')
                ->join('documents', 'documents.ref', '=', 'document_values.value')
                ->whereIntegerInRaw('document_id', $ids)
                ->whereIntegerInRaw('field_id', $fields)
                ->whereNotIn('documents.id', $ids)
                ->distinct()
                ->pluck('documents.id'),
        );
    }
}
