<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Index\Names;
use App\Index\SqliteStore;
use App\Models\Document;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Procedures\Asking\Party;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Plan\Procedure;
use Brenvic\Core\Procedures\Plan\Step;
use Brenvic\Core\Procedures\Plan\Way;
use Brenvic\Core\Procedures\Trial;
use Brenvic\Core\Procedures\TrialResult;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Searcher;
use Illuminate\Support\Facades\DB;

/** Runs a procedure that is being designed on documents that exist: who would be asked of how many, and who would not be there. */
final readonly class ProcedureTrials
{
    private const EXAMPLES = 5;

    public function __construct(private Rights $rights, private Catalog $catalog, private SqliteStore $store)
    {
    }

    /**
     * @param  Design  $design  with the procedure
     * @param  string  $selection  a search, in CQL; empty for all that the person may see
     * @return array{documents: int, steps: list<array<string, mixed>>}
     *
     * @throws \Brenvic\Core\Query\SyntaxError|\Brenvic\Core\Search\Asking\SearchError
     */
    public function run(ProcedurePart $part, Design $design, string $selection, User $user): array
    {
        $asker = $this->rights->asker($user);

        return $this->store->snapshot(function () use ($part, $design, $selection, $asker): array {
            $searcher = new Searcher(new IndexReader($this->store), $this->catalog->fullSchema($design), new Names());
            $known = [];
            $find = static function (string $cql) use ($searcher, $asker, &$known): DocumentSet {
                return $known[$cql] ??= $searcher->documents($asker, Parser::parse($cql)->root);
            };
            $documents = $searcher->sight($asker);
            foreach ([$selection, $part->criterion, self::types($part)] as $cql) {
                $documents = $cql === '' ? $documents : $documents->and($find($cql));
            }
            $result = (new Trial($part->procedure, $find))->run($documents);

            return [
                'documents' => $documents->count(),
                'steps' => array_values(
                    array_map(fn (Step $step): array => $this->step($part, $step, $result, $find), $part->procedure->steps),
                ),
            ];
        });
    }

    private static function types(ProcedurePart $part): string
    {
        return implode(' or ', array_map(static fn (string $type): string => "type == \"{$type}\"", $part->types));
    }

    /**
     * @param  \Closure(string): DocumentSet  $find
     * @return array<string, mixed>
     */
    private function step(ProcedurePart $part, Step $step, TrialResult $result, \Closure $find): array
    {
        $reached = $result->reached[$step->code];
        $decisions = [];
        foreach ($step->ways() as $decision => $ways) {
            $decisions[] = [
                'decision' => (string) $decision,
                'ways' => array_map(
                    static fn (Way $way, DocumentSet $set): array => ['to' => $way->to, 'documents' => $set->count()],
                    $ways,
                    $result->taken[$step->code][$decision],
                ),
                'lost' => $result->lost[$step->code][$decision]->count(),
            ];
        }
        $nobody = $step instanceof AskStep ? $this->nobody($step, $reached, $find) : DocumentSet::none();

        return [
            'code' => $step->code,
            'documents' => $reached->count(),
            'examples' => $this->examples($reached),
            'decisions' => $decisions,
            'nobody' => $nobody->count(),
            'nobody_examples' => $this->examples($nobody),
            'hours' => $step instanceof AskStep ? $this->hours($part->code, $step->code) : null,
        ];
    }

    /**
     * The documents for which nobody would be there to be asked.
     *
     * @param  \Closure(string): DocumentSet  $find
     */
    private function nobody(AskStep $step, DocumentSet $reached, \Closure $find): DocumentSet
    {
        $missing = array_map(fn (Party $party): DocumentSet => $reached->minus($this->found($party, $reached, $find)), $step->parties);
        $none = array_shift($missing) ?? $reached;
        foreach ($missing as $set) {
            $none = $step->mode === AskStep::ANY ? $none->and($set) : $none->or($set);
        }

        return $none;
    }

    /**
     * The documents for which one of those who are asked is there.
     *
     * @param  \Closure(string): DocumentSet  $find
     */
    private function found(Party $party, DocumentSet $reached, \Closure $find): DocumentSet
    {
        $names = DB::table('users')->whereNull('out_of_use_at')->select('name');
        $managed = DB::table('users')->whereIn('manager_id', DB::table('users')->whereNull('out_of_use_at')->select('id'));
        $ofField = fn (\Illuminate\Database\Query\Builder $named): DocumentSet => DocumentSet::of(
            Column::numbers(
                DB::table('effective_values')
                    ->where('field_id', $this->catalog->fieldIds()[$party->value] ?? 0)
                    ->whereIn('value', $named)
                    ->distinct()
                    ->orderBy('document_id')
                    ->pluck('document_id'),
            ),
        );
        $kind = array_search($party::class, Party::KINDS, true);

        return match ($kind) {
            'group' => User::among([$party->value])->exists() ? $reached : DocumentSet::none(),
            'person' => (clone $names)->where('sign_in', $party->value)->exists() ? $reached : DocumentSet::none(),
            'field' => $ofField($names),
            'dossier' => DocumentSet::of(
                Column::numbers(
                    DB::table('document_dossier')
                        ->join('dossier_values', 'dossier_values.dossier_id', '=', 'document_dossier.dossier_id')
                        ->where('field_id', $this->catalog->fieldIds()[$party->value] ?? 0)
                        ->whereIn('value', $names)
                        ->distinct()
                        ->orderBy('document_id')
                        ->pluck('document_id'),
                ),
            ),
            default => $party->fields() === []
                ? DocumentSet::of(Column::numbers(Document::query()->whereIn('created_by', (clone $managed)->select('id'))->orderBy('id')->pluck('id')))
                : $ofField((clone $managed)->select('name')),
        };
    }

    /** @return list<array{ref: string, title: string}> some of them, spread over all */
    private function examples(DocumentSet $documents): array
    {
        return array_values(
            Document::query()
                ->findMany($documents->spread(self::EXAMPLES))
                ->map(static fn (Document $document): array => ['ref' => $document->ref, 'title' => $document->title])
                ->all(),
        );
    }

    /** How long half of the tasks of a step took at most, in hours; null where there were none. */
    private function hours(string $procedure, string $step): ?float
    {
        $took = DB::table('tasks')
            ->where('procedure', $procedure)
            ->where('step', $step)
            ->whereNotNull('decided_by')
            ->orderByDesc('id')
            ->limit(2_000)
            ->get(['opened_at', 'closed_at']);

        return Took::median(array_map(Took::hours(...), $took->all()));
    }
}
