<?php

declare(strict_types=1);

namespace App\Reading;

use App\Access\Rights;
use App\Catalog\OwnValues;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Reading\Outcome;
use Illuminate\Support\Facades\DB;

/**
 * How often what a rule proposed was filed unchanged. Kept for each document, so that whoever asks is told of those alone that they
 * may see.
 */
final readonly class ProposalRecord
{
    /** What stands for the type and the dossier in the place of a field. */
    public const TYPE = '.type';

    public const DOSSIER = '.dossier';

    /** So many documents are looked at, the latest. */
    private const LATEST = 200;

    public function __construct(private Rights $rights)
    {
    }

    /** Notes what is proposed for a document that waits. */
    public static function offer(int $document, ProposedSheet $sheet): void
    {
        $rows = [];
        foreach ($sheet->fields as $of) {
            $rows[$of->field->code] = self::row($of->field->code, $of->rule, $of->stamp, $of->normals());
        }
        foreach ([self::TYPE => $sheet->type, self::DOSSIER => $sheet->dossier] as $name => $of) {
            if ($of !== null) {
                $rows[$name] = self::row($name, Proposals::FORM, $name, [$of->code]);
            }
        }
        $offered = DB::table('proposal_record')->where('document_id', $document)->get(['field', 'rule', 'stamp', 'values']);
        // What was proposed before is not written again.
        if ($rows == $offered->map(static fn (object $row): array => (array) $row)->keyBy('field')->all()) {
            return;
        }
        DB::transaction(static function () use ($document, $rows): void {
            DB::table('proposal_record')->where('document_id', $document)->delete();
            DB::table('proposal_record')->insert(array_map(static fn (array $row): array => [...$row, 'document_id' => $document], array_values($rows)));
        });
    }

    /**
     * @param  list<string>  $values
     * @return array{field: string, rule: string, stamp: string, values: string}
     */
    private static function row(string $field, string $rule, string $stamp, array $values): array
    {
        return [
            'field' => $field,
            'rule' => $rule,
            'stamp' => $stamp,
            'values' => json_encode($values, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE),
        ];
    }

    /**
     * Settles it for documents that were filed, and again for those that were then put into a dossier.
     *
     * @param  list<int>  $documents
     */
    public static function settle(array $documents): void
    {
        $offered = DB::table('proposal_record')->whereIntegerInRaw('document_id', $documents)->get();
        if ($offered->isEmpty()) {
            return;
        }
        $ids = Column::numbers($offered->pluck('document_id')->unique());
        $values = OwnValues::of($ids);
        $types = DB::table('documents')
            ->join('document_types', 'document_types.id', 'document_type_id')
            ->whereIntegerInRaw('documents.id', $ids)
            ->pluck('code', 'documents.id');
        foreach ($types as $id => $code) {
            $values[(int) $id][self::TYPE] = [(string) $code];
        }
        $dossiers = DB::table('document_dossier')
            ->join('dossiers', 'dossiers.id', 'dossier_id')
            ->whereIntegerInRaw('document_id', $ids)
            ->get(['document_id', 'ref']);
        foreach ($dossiers as $row) {
            $values[(int) $row->document_id][self::DOSSIER][] = (string) $row->ref;
        }
        $kept = [];
        foreach ($offered as $row) {
            $proposed = Column::texts((array) json_decode((string) $row->values, true));
            $has = $values[(int) $row->document_id][(string) $row->field] ?? [];
            // A document may be in other dossiers, too.
            $isKept = $row->field === self::DOSSIER ? array_diff($proposed, $has) === [] : Outcome::of($proposed, $has) === Outcome::Agrees;
            $kept[$isKept ? 1 : 0][(string) $row->field][] = (int) $row->document_id;
        }
        foreach ($kept as $isKept => $byField) {
            foreach ($byField as $field => $of) {
                DB::table('proposal_record')->where('field', $field)->whereIntegerInRaw('document_id', $of)->update(['kept' => $isKept]);
            }
        }
    }

    /**
     * Forgets what was settled for documents that wait again.
     *
     * @param  list<int>  $documents
     */
    public static function reopen(array $documents): void
    {
        DB::table('proposal_record')->whereIntegerInRaw('document_id', $documents)->update(['kept' => null]);
    }

    /**
     * How often what a rule proposed, or what else proposals come from, was kept.
     *
     * @return array{int, int} kept, and made, of the latest that a person may see
     */
    public function of(string $rule, string $stamp, User $by): array
    {
        $kept = DB::table('proposal_record')
            ->where('rule', $rule)
            ->where('stamp', $stamp)
            ->whereNotNull('kept')
            ->orderByDesc('document_id')
            ->limit(self::LATEST)
            ->pluck('kept', 'document_id')
            ->all();
        $seen = array_intersect_key($kept, array_flip($this->rights->seen($by, array_keys($kept))));

        return [count(array_filter($seen)), count($seen)];
    }
}
