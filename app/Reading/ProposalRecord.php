<?php

declare(strict_types=1);

namespace App\Reading;

use App\Access\Rights;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Reading\Outcome;
use Closure;
use Illuminate\Support\Facades\DB;

/**
 * How often what a rule proposed was filed unchanged. Kept for each document, so that whoever asks is told of those alone that they
 * may see.
 */
final readonly class ProposalRecord
{
    /** So many documents are looked at, the latest. */
    private const LATEST = 200;

    public function __construct(private Rights $rights)
    {
    }

    /**
     * Notes what is proposed for a document that waits.
     *
     * @param  list<Proposal>  $proposals
     */
    public static function offer(int $document, array $proposals): void
    {
        $rows = [];
        foreach ($proposals as $of) {
            $values = json_encode($of->values(), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE);
            $rows[$of->field->code] = ['field' => $of->field->code, 'rule' => $of->rule, 'stamp' => $of->stamp, 'values' => $values];
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
     * Settles it for documents that were filed.
     *
     * @param  list<int>  $documents
     * @param  Closure(list<int>): array<int, array<string, list<string>>>  $present  gives what some have now, by document and field code
     */
    public static function settle(array $documents, Closure $present): void
    {
        $offered = DB::table('proposal_record')->whereIntegerInRaw('document_id', $documents)->whereNull('kept')->get();
        $values = $offered->isEmpty() ? [] : $present(Column::numbers($offered->pluck('document_id')->unique()));
        $kept = [];
        foreach ($offered as $row) {
            $proposed = Column::texts((array) json_decode((string) $row->values, true));
            $isKept = Outcome::of($proposed, $values[(int) $row->document_id][(string) $row->field] ?? []) === Outcome::Agrees;
            $kept[$isKept ? 1 : 0][(string) $row->field][] = (int) $row->document_id;
        }
        foreach ($kept as $isKept => $byField) {
            foreach ($byField as $field => $ids) {
                DB::table('proposal_record')->where('field', $field)->whereIntegerInRaw('document_id', $ids)->update(['kept' => $isKept]);
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

    /** @return array{int, int} how often a rule's proposal was kept, and how often it was made, of the latest that a person may see */
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
