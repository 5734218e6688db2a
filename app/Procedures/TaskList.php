<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Record\Status;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What waits for a person, and for whom else. Whoever may not see a document sees no task about it. */
final readonly class TaskList
{
    public function __construct(private Rights $rights, private Catalog $catalog)
    {
    }

    /**
     * The tasks of a part, those that are due first before the others, and how many there are of each part.
     *
     * @return array{ids: list<int>, total: int, counts: array{mine: int, groups: int, others: int, overdue: int, stopped: int}} some ids, from an offset
     */
    public function page(User $user, TaskPart $part, int $offset = 0, int $limit = 100): array
    {
        $found = [];
        foreach (TaskPart::cases() as $of) {
            $found[$of->value] = $this->seen($user, $of);
        }
        $own = [...$found[TaskPart::Mine->value], ...$found[TaskPart::Groups->value]];

        return [
            'ids' => array_map(static fn (\stdClass $row): int => (int) $row->id, array_slice($found[$part->value], $offset, $limit)),
            'total' => count($found[$part->value]),
            'counts' => [
                'mine' => count($found[TaskPart::Mine->value]),
                'groups' => count($found[TaskPart::Groups->value]),
                'others' => count($found[TaskPart::Others->value]),
                'overdue' => count(array_filter($own, static fn (\stdClass $row): bool => (bool) $row->is_overdue)),
                'stopped' => count($this->stopped($user)),
            ],
        ];
    }

    /** @return array{mine: int, groups: int} what waits for somebody: what is told beside the tab */
    public function waiting(User $user): array
    {
        return ['mine' => count($this->seen($user, TaskPart::Mine)), 'groups' => count($this->seen($user, TaskPart::Groups))];
    }

    /** @return list<int> the cases that stopped, of the procedures that a person looks after */
    public function stopped(User $user): array
    {
        $rows = ProcedureCase::query()
            ->where('status', Status::Stopped->value)
            ->whereIn('procedure', array_keys($this->kept($user)))
            ->orderBy('since')
            ->get(['id', 'document_id']);
        $seen = array_flip($this->rights->seen($user, Column::numbers($rows->pluck('document_id'))));

        return array_values($rows->filter(static fn (ProcedureCase $case): bool => isset($seen[$case->document_id]))->modelKeys());
    }

    /** Whether somebody looks after the cases of a procedure. */
    public static function keeps(User $user, ProcedurePart $part): bool
    {
        return in_array($part->keepers, $user->groupNames(), true);
    }

    /** @return array<string, ProcedurePart> the procedures that a person looks after */
    public function kept(User $user): array
    {
        return array_filter(
            $this->catalog->design()->parts(ProcedurePart::class),
            static fn (ProcedurePart $part): bool => self::keeps($user, $part),
        );
    }

    /** Whether a task is among those that wait for a person. */
    public function waitsFor(User $user, Task $task): bool
    {
        foreach ([TaskPart::Mine, TaskPart::Groups] as $part) {
            if ($this->query($user, $part)->where('tasks.id', $task->id)->exists() && ! in_array($user->id, $task->excluded, true)) {
                return true;
            }
        }

        return false;
    }

    /** @return list<\stdClass> id, document_id, excluded, is_overdue */
    private function seen(User $user, TaskPart $part): array
    {
        $rows = $this->query($user, $part)
            ->orderByRaw('due IS NULL')
            ->orderBy('due')
            ->orderBy('tasks.id')
            ->get(['tasks.id', 'tasks.document_id', 'excluded', 'is_overdue']);
        $sight = $rows->isEmpty() ? null : $this->rights->sight($user);
        $found = [];
        foreach ($rows as $row) {
            $isOpen = $part !== TaskPart::Groups || $row->excluded === '[]' || ! in_array($user->id, json_decode((string) $row->excluded, true), true);
            if ($isOpen && $sight?->has((int) $row->document_id) === true) {
                $found[] = $row;
            }
        }

        return $found;
    }

    private function query(User $user, TaskPart $part): Builder
    {
        $people = [$user->id, ...Away::representedBy($user->id)];
        $open = DB::table('tasks')->whereNull('closed_at');

        return match ($part) {
            TaskPart::Mine => $open->where(static fn (Builder $q) => $q->whereIn('holder_id', $people)->orWhereIn('asked_id', $people)),
            TaskPart::Groups => $open
                ->whereNull('holder_id')
                ->where(static fn (Builder $q) => $q->whereNull('asked_id')->orWhereNotIn('asked_id', $people))
                ->whereIn('tasks.id', self::asked($people)),
            TaskPart::Others => $open
                ->where(static fn (Builder $q) => $q->whereNull('asked_id')->orWhereNotIn('asked_id', $people))
                ->where(
                    static fn (Builder $q) => $q
                        ->where(static fn (Builder $held) => $held->whereNotNull('holder_id')->whereNotIn('holder_id', $people))
                        ->orWhere(static fn (Builder $free) => $free->whereNull('holder_id')->whereNotIn('tasks.id', self::asked($people))),
                )
                ->where(
                    fn (Builder $q) => $q
                        ->whereIn('procedure', array_map(strval(...), array_keys($this->kept($user))))
                        ->orWhereIn('case_id', DB::table('cases')->where('begun_by', $user->id)->select('id'))
                        ->orWhereIn('case_id', DB::table('tasks')->where('decided_by', $user->id)->select('case_id')),
                ),
        };
    }

    /**
     * @param  list<int>  $people
     */
    private static function asked(array $people): Builder
    {
        return DB::table('task_audience')
            ->where(
                static fn (Builder $q) => $q
                    ->whereIn('user_id', $people)
                    ->orWhereIn('group_id', DB::table('memberships')->whereIn('user_id', $people)->select('group_id')),
            )
            ->select('task_id');
    }
}
