<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\NotNow;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Decided;
use Brenvic\Core\Procedures\Record\Ended;
use Brenvic\Core\Procedures\Record\Entered;
use Brenvic\Core\Procedures\Record\Event;
use Brenvic\Core\Procedures\Record\GivenUp;
use Brenvic\Core\Procedures\Record\Overdue;
use Brenvic\Core\Procedures\Record\Reminded;
use Brenvic\Core\Procedures\Record\Status;
use Brenvic\Core\Procedures\Record\Task as OpenTask;
use Closure;
use Illuminate\Support\Facades\DB;

/**
 * Carries procedures out: each thing that happens is written to the record of its case, and with it, in the same transaction,
 * what the record comes to: the case, its tasks, the index, and the notices about it. What steps do by themselves follows in
 * the background.
 */
final readonly class Cases
{
    public function __construct(
        private Catalog $catalog,
        private Rights $rights,
        private Indexer $indexer,
        private ProcedureVersions $versions,
        private CaseNotices $notices,
    ) {
    }

    /**
     * Begins a procedure with a filed document.
     *
     * @throws Refused when it is under way with it already, or is not for it
     */
    public function begin(ProcedurePart $part, Document $document, ?User $by): ProcedureCase
    {
        return DB::transaction(function () use ($part, $document, $by): ProcedureCase {
            $document->refresh();
            if ($document->state !== Document::FILED || $document->deleted_at !== null) {
                throw new Refused("“{$document->title}” is not filed. “{$part->name}” begins with filed documents.");
            }
            if (! $part->isFor($this->catalog->types()->get((int) $document->document_type_id)?->code)) {
                throw new Refused("“{$part->name}” is not for documents of this type.");
            }
            if (self::open($part->code, $document)->exists()) {
                throw new Refused("“{$part->name}” is under way with this document already.");
            }
            $case = ProcedureCase::query()->create([
                'procedure' => $part->code,
                'procedure_version_id' => $this->versions->present($part->code) ?? throw new Refused("“{$part->name}” is not published."),
                'document_id' => $document->id,
                'length' => 0,
                'status' => Status::Fresh,
                'since' => now(),
                'begun_at' => now(),
                'begun_by' => $by?->id,
            ]);
            History::record(Act::ProcedureBegun, $by, $document, ['procedure' => $part->name]);
            $this->write($case, $document, new CaseState(), $this->machine($case, $document)->begin());

            return $case;
        });
    }

    /** @return \Illuminate\Database\Eloquent\Builder<ProcedureCase> the case of a document in a procedure that is not over */
    public static function open(string $procedure, Document $document): \Illuminate\Database\Eloquent\Builder
    {
        return ProcedureCase::underWay($procedure)->where('document_id', $document->id);
    }

    /**
     * Has something happen in a case. Whoever else acts in it at the same time comes before or after, and is told.
     *
     * @param  Closure(Machine, CaseState, ProcedureCase, Document): list<Event>  $what
     *
     * @throws Refused
     */
    public function act(ProcedureCase $case, Closure $what): ProcedureCase
    {
        return DB::transaction(function () use ($case, $what): ProcedureCase {
            $case = ProcedureCase::query()->lockForUpdate()->findOrFail($case->id);
            $document = Document::query()->find($case->document_id) ?? throw new Refused('The document was removed in the meantime.');
            $state = $this->state($case);
            try {
                $events = $what($this->machine($case, $document), $state, $case, $document);
            } catch (NotNow $why) {
                throw new Refused($this->told($case, $why));
            }
            $this->write($case, $document, $state, $events);

            return $case;
        });
    }

    /** Where a case stands, by its record. */
    public function state(ProcedureCase $case): CaseState
    {
        return (new CaseState())->after(array_column($this->record($case), 'event'));
    }

    /** @return list<array{event: Event, at: string, by: int|null, step: string|null}> in the order in which it happened */
    public function record(ProcedureCase $case): array
    {
        return array_values(
            DB::table('case_events')
                ->where('case_id', $case->id)
                ->orderBy('number')
                ->get()
                ->map(static fn (\stdClass $row): array => [
                    'event' => Event::of(
                        (string) $row->kind,
                        $row->user_id === null ? null : (int) $row->user_id,
                        json_decode((string) $row->detail, true, 64, JSON_THROW_ON_ERROR),
                    ),
                    'at' => (string) $row->at,
                    'by' => $row->user_id === null ? null : (int) $row->user_id,
                    'step' => $row->step === null ? null : (string) $row->step,
                ])
                ->all(),
        );
    }

    public function machine(ProcedureCase $case, Document $document): Machine
    {
        return new Machine($this->versions->of($case)->procedure, new CaseFacts($document, $this->rights, $this->catalog));
    }

    /** Brings the index to a document that was changed in the middle of something, so that criteria can be held against it. */
    public function changed(Document $document): void
    {
        $this->indexer->update([$document->id]);
    }

    /** Moves a case to a step of the procedure as it is published now. */
    public function move(ProcedureCase $case, string $step, User $by): void
    {
        DB::transaction(function () use ($case, $step, $by): void {
            $case = ProcedureCase::query()->lockForUpdate()->findOrFail($case->id);
            $present = $this->versions->present($case->procedure);
            $present === null || $case->update(['procedure_version_id' => $present]);
            $this->act($case, static fn (Machine $machine, CaseState $state): array => $machine->move($state, $step, $by->id));
        });
    }

    /** What somebody who is gone had is for others. */
    public function gone(User $person): int
    {
        $cases = ProcedureCase::query()
            ->whereIn(
                'id',
                DB::table('tasks')
                    ->whereNull('closed_at')
                    ->where(
                        static fn ($q) => $q
                            ->where('holder_id', $person->id)
                            ->orWhere('asked_id', $person->id)
                            ->orWhereIn('id', DB::table('task_audience')->where('user_id', $person->id)->select('task_id')),
                    )
                    ->select('case_id'),
            )
            ->get();
        foreach ($cases as $case) {
            $keepers = new Audience([$this->versions->of($case)->keepers]);
            $this->act($case, static fn (Machine $machine, CaseState $state): array => $machine->gone($state, $person->id, $keepers));
        }

        return $cases->count();
    }

    /** Why it was too late, with who was first. */
    private function told(ProcedureCase $case, NotNow $why): string
    {
        if (! str_contains($why->getMessage(), 'decided in the meantime')) {
            return $why->getMessage();
        }
        $last = LastDecision::in($case, $this->versions->of($case));

        return $last === null
            ? $why->getMessage()
            : ($last->by->name ?? 'The deadline')." decided “{$last->label}” in the meantime. Your decision was not made.";
    }

    /**
     * @param  CaseState  $before  as the record has it so far
     * @param  list<Event>  $events  that follow
     */
    private function write(ProcedureCase $case, Document $document, CaseState $before, array $events): void
    {
        if ($events === []) {
            return;
        }
        $state = $before;
        $rows = [];
        foreach ($events as $event) {
            $state = $state->after([$event]);
            $rows[] = [
                'case_id' => $case->id,
                'number' => $state->length,
                'kind' => $event->kind(),
                'user_id' => $event->by(),
                'step' => $state->step,
                'detail' => json_encode($event->detail(), JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
                'at' => now(),
            ];
        }
        DB::table('case_events')->insert($rows);
        $isMoved = array_filter($events, static fn (Event $e): bool => $e instanceof Entered || $e instanceof Ended) !== [];
        $case->update([
            'length' => $state->length,
            'status' => $state->status,
            'step' => $state->step,
            'decision' => $state->decision,
            'fault' => $state->fault,
            'since' => $isMoved ? now() : $case->since,
            'ended_at' => $state->status->isOver() ? now() : null,
        ]);
        $this->tasks($case, $before, $state, $events);
        $this->noted($case, $document, $before, $events);
        $isGivenUp = $state->status === Status::GivenUp && $document->locked_by_case === $case->id;
        $isGivenUp && $document->update(['locked_by_case' => null]);
        // A reminder, or that something is overdue, moves nothing: of it the index knows nothing.
        $isStanding = array_filter($events, static fn (Event $e): bool => ! ($e instanceof Reminded || ($e instanceof Overdue && $e->to === null)));
        $isStanding === [] || $this->indexer->update([$document->id]);
        CarryOn::begin($case->id);
    }

    /** Tells people of what they have not been told of yet. */
    public function tellOf(int $id): void
    {
        DB::transaction(function () use ($id): void {
            $case = ProcedureCase::query()->lockForUpdate()->find($id);
            $document = $case === null ? null : Document::query()->find($case->document_id);
            if ($case === null || $case->told >= $case->length) {
                return;
            }
            $record = array_column($this->record($case), 'event');
            $before = (new CaseState())->after(array_slice($record, 0, $case->told));
            // Of a document that was removed nobody is told anything.
            $document === null || $this->notices->about($case, $document, $this->versions->of($case), $before, array_slice($record, $case->told));
            $case->update(['told' => $case->length]);
        });
    }

    /**
     * Brings the rows of the tasks to what they are now.
     *
     * @param  list<Event>  $events
     */
    private function tasks(ProcedureCase $case, CaseState $before, CaseState $state, array $events): void
    {
        $decided = [];
        foreach ($events as $event) {
            if ($event instanceof Decided) {
                $decided[$event->task] = ['decided_by' => $event->by, 'decision' => $event->decision];
            }
        }
        // Those that were opened and closed within these events never waited for anybody.
        foreach (array_diff_key($before->tasks, $state->tasks) as $number => $task) {
            $row = Task::query()->where('case_id', $case->id)->where('number', $number)->first();
            $row?->update(['closed_at' => now(), 'asked_id' => null, ...$decided[$number] ?? []]);
            DB::table('task_audience')->where('task_id', $row?->id)->delete();
        }
        foreach ($state->tasks as $number => $task) {
            $was = $before->tasks[$number] ?? null;
            if ($was != $task) {
                $this->task($case, (string) $state->step, $task, $was);
            }
        }
    }

    private function task(ProcedureCase $case, string $step, OpenTask $task, ?OpenTask $was): void
    {
        $row = Task::query()->updateOrCreate(
            ['case_id' => $case->id, 'number' => $task->number],
            [
                'document_id' => $case->document_id,
                'procedure' => $case->procedure,
                'step' => $step,
                'holder_id' => $task->holder,
                'asked_id' => $task->asked['to'] ?? null,
                'excluded' => $task->excluded,
                'due' => $task->due,
                'remind' => $task->remind,
                'is_overdue' => $task->isOverdue,
                ...$was === null ? ['opened_at' => now()] : [],
            ],
        );
        if ($was === null || $was->audience != $task->audience) {
            DB::table('task_audience')->where('task_id', $row->id)->delete();
            $groups = DB::table('groups')->whereIn('name', $task->audience->groups)->pluck('id');
            DB::table('task_audience')->insert([
                ...$groups->map(static fn (mixed $id): array => ['task_id' => $row->id, 'group_id' => $id, 'user_id' => null])->all(),
                ...array_map(static fn (int $id): array => ['task_id' => $row->id, 'group_id' => null, 'user_id' => $id], $task->audience->people),
            ]);
        }
    }

    /**
     * What of it belongs in the history of the document.
     *
     * @param  CaseState  $state  before the first of them
     * @param  list<Event>  $events
     */
    private function noted(ProcedureCase $case, Document $document, CaseState $state, array $events): void
    {
        $part = $this->versions->of($case);
        foreach ($events as $event) {
            $step = $part->procedure->steps[(string) $state->step] ?? null;
            $state = $state->after([$event]);
            if ($event instanceof Decided) {
                History::record(Act::Decided, $event->by === null ? null : User::query()->find($event->by), $document, [
                    'procedure' => $part->name,
                    'step' => $step->name ?? '',
                    'decision' => $step instanceof AskStep ? $step->decision($event->decision)->label ?? $event->decision : $event->decision,
                    ...$event->comment === '' ? [] : ['comment' => $event->comment],
                    ...$event->for === null ? [] : ['for' => User::query()->find($event->for)->name ?? ''],
                ]);
            } elseif ($event instanceof Ended) {
                History::record(Act::ProcedureEnded, null, $document, [
                    'procedure' => $part->name,
                    'end' => $part->procedure->steps[$event->step]->name ?? '',
                ]);
            } elseif ($event instanceof GivenUp) {
                History::record(Act::ProcedureGivenUp, User::query()->find($event->by), $document, [
                    'procedure' => $part->name,
                    'reason' => $event->reason,
                ]);
            }
        }
    }
}
