<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Procedures\Cases;
use App\Procedures\ProcedureVersions;
use App\Procedures\TaskList;
use App\Redaction\Redactions;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Plan\Decision;
use Brenvic\Core\Procedures\Plan\Step;
use Brenvic\Core\Procedures\Record\Acted;
use Brenvic\Core\Procedures\Record\Answered;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Decided;
use Brenvic\Core\Procedures\Record\Ended;
use Brenvic\Core\Procedures\Record\Entered;
use Brenvic\Core\Procedures\Record\Event;
use Brenvic\Core\Procedures\Record\Given;
use Brenvic\Core\Procedures\Record\GivenUp;
use Brenvic\Core\Procedures\Record\Left;
use Brenvic\Core\Procedures\Record\Overdue;
use Brenvic\Core\Procedures\Record\PutBack;
use Brenvic\Core\Procedures\Record\Questioned;
use Brenvic\Core\Procedures\Record\Reminded;
use Brenvic\Core\Procedures\Record\Resumed;
use Brenvic\Core\Procedures\Record\Stopped;
use Brenvic\Core\Procedures\Record\Taken;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Shapes cases and tasks: where a document stands, who has it, what was decided by whom and why. */
final readonly class CaseResource
{
    public function __construct(
        private Catalog $catalog,
        private Cases $cases,
        private ProcedureVersions $versions,
        private TaskList $list,
        private Redactions $redactions,
    ) {
    }

    /**
     * The cases of a document, those under way first.
     *
     * @return list<array<string, mixed>>
     */
    public function ofDocument(Document $document, User $user): array
    {
        $cases = ProcedureCase::query()->with('tasks.holder')->where('document_id', $document->id)->orderByDesc('id')->get()->all();
        usort($cases, static fn (ProcedureCase $a, ProcedureCase $b): int => $a->status->isOver() <=> $b->status->isOver());

        return array_map(fn (ProcedureCase $case): array => $this->of($case, $document, $user), $cases);
    }

    /** @return array<string, mixed> */
    public function of(ProcedureCase $case, Document $document, User $user): array
    {
        $part = $this->versions->of($case);
        $open = $case->tasks->whereNull('closed_at');
        $mine = $open->first(fn (Task $task): bool => $this->list->waitsFor($user, $task));
        $keeps = TaskList::keeps($user, $part);

        return [
            'id' => $case->id,
            'procedure' => ['code' => $part->code, 'name' => $part->name],
            'status' => $case->status->value,
            'step' => $this->step($part, $case->step),
            'waits_for' => $this->waitsFor($open->all()),
            'due' => $open->whereNotNull('due')->min('due'),
            'overdue' => $open->contains(static fn (Task $task): bool => $task->is_overdue),
            'since' => $case->since->toIso8601String(),
            'begun_at' => $case->begun_at->toIso8601String(),
            'ended_at' => $case->ended_at?->toIso8601String(),
            'fault' => $case->fault,
            'task' => $mine?->id,
            'record' => $this->story($case, $document, $user, $part),
            'steps' => $keeps && ! $case->status->isOver() ? $this->steps($case) : [],
            'may_keep' => $keeps && ! $case->status->isOver(),
        ];
    }

    /**
     * @param  list<int>  $ids
     * @return list<array<string, mixed>> in their order
     */
    public function tasks(array $ids, User $user): array
    {
        $tasks = Task::query()->with(['case', 'document.type', 'holder'])->findMany($ids)->keyBy('id');
        $audiences = self::audiences($ids);
        $rows = [];
        foreach ($ids as $id) {
            $task = $tasks->get($id);
            if ($task?->document !== null) {
                $rows[] = $this->row($task, $task->document, $user, $audiences[$id] ?? []);
            }
        }

        return $rows;
    }

    /**
     * A task as it is opened.
     *
     * @return array<string, mixed>
     */
    public function task(Task $task, Document $document, User $user): array
    {
        $case = $task->case;
        $part = $this->versions->of($case);
        $step = $part->procedure->steps[$task->step] ?? null;
        $state = $this->cases->state($case);
        $machine = $this->cases->machine($case, $document);
        $why = $machine->hindrance($state, $task->number, $user->id);
        $asked = $state->tasks[$task->number]->asked ?? null;
        $shown = $this->catalog->fieldsFor($user);

        return [
            ...$this->row($task, $document, $user, self::audiences([$task->id])[$task->id] ?? []),
            'hindrance' => $task->closed_at !== null ? 'This was decided.' : $why,
            'held_by_other' => $task->holder_id !== null && $task->holder_id !== $user->id,
            'sheet' => $step instanceof AskStep
                ? array_values(
                    array_map(
                        static fn (array $entry): array => ['code' => $entry[0], 'required' => $entry[1]],
                        array_filter($step->sheet, static fn (array $entry): bool => isset($shown[$entry[0]])),
                    ),
                )
                : [],
            'decisions' => $step instanceof AskStep && $task->closed_at === null
                ? array_map(
                    static fn (Decision $decision): array => [
                        'code' => $decision->code,
                        'label' => $decision->label,
                        'comment' => $decision->needsComment,
                        'fields' => array_values(array_filter($decision->fields, static fn (string $code): bool => isset($shown[$code]))),
                        'leads' => array_map(static fn (Step $step): string => $step->name, $machine->leads($state, $decision->code)),
                    ],
                    $step->decisions,
                )
                : [],
            'asked' => $asked === null
                ? null
                : [
                    'by' => self::name($asked['by']),
                    'to' => self::name($asked['to']),
                    'text' => $asked['text'],
                    'mine' => $asked['to'] === $user->id || in_array($asked['to'], \App\Procedures\Away::representedBy($user->id), true),
                ],
            'many' => $step instanceof AskStep && $step->isForMany,
            'length' => $case->length,
            'record' => $this->story($case, $document, $user, $part),
        ];
    }

    /**
     * @param  list<string>  $audience
     * @return array<string, mixed>
     */
    private function row(Task $task, Document $document, User $user, array $audience): array
    {
        $part = $this->versions->of($task->case);
        $step = $part->procedure->steps[$task->step] ?? null;

        return [
            'id' => $task->id,
            'document' => ['ref' => $document->ref, 'title' => $document->title, 'type' => $document->type->name ?? null],
            'procedure' => ['code' => $part->code, 'name' => $part->name],
            'step' => $this->step($part, $task->step),
            'question' => $step instanceof AskStep ? $step->question : '',
            'holder' => $task->holder?->name,
            'mine' => $task->holder_id === $user->id,
            'is_question' => $task->asked_id === $user->id,
            'for' => $audience,
            'due' => $task->due,
            'overdue' => $task->is_overdue,
            'opened_at' => $task->opened_at->toIso8601String(),
            'closed' => $task->closed_at !== null,
            // What several are of that may be decided at once.
            'together' => $step instanceof AskStep && $step->isForMany ? "{$task->case->procedure_version_id}/{$task->step}" : null,
        ];
    }

    /** @return array{code: string, name: string} */
    private function step(ProcedurePart $part, ?string $code): array
    {
        return ['code' => (string) $code, 'name' => $part->procedure->steps[(string) $code]->name ?? (string) $code];
    }

    /** @return list<array{code: string, name: string}> the steps that a case can be moved to, of the procedure as it is now */
    private function steps(ProcedureCase $case): array
    {
        $present = $this->versions->present($case->procedure);
        $part = $present === null ? $this->versions->of($case) : $this->versions->numbered($present);

        return array_values(
            array_map(static fn (Step $step): array => ['code' => $step->code, 'name' => $step->name], $part->procedure->steps),
        );
    }

    /**
     * @param  array<Task>  $open
     * @return list<string>
     */
    private function waitsFor(array $open): array
    {
        $names = [];
        $audiences = self::audiences(array_values(array_map(static fn (Task $task): int => $task->id, $open)));
        foreach ($open as $task) {
            array_push($names, ...$task->holder === null ? $audiences[$task->id] ?? [] : [$task->holder->name]);
        }

        return array_values(array_unique($names));
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, list<string>> names of the groups and people whom tasks are for
     */
    private static function audiences(array $ids): array
    {
        $names = [];
        foreach (
            DB::table('task_audience')
                ->leftJoin('groups', 'groups.id', '=', 'group_id')
                ->leftJoin('users', 'users.id', '=', 'user_id')
                ->whereIntegerInRaw('task_id', $ids)
                ->orderBy('task_audience.id')
                ->get(['task_id', 'groups.name as group', 'users.name as person']) as $row
        ) {
            $names[(int) $row->task_id][] = (string) ($row->group ?? $row->person);
        }

        return $names;
    }

    private static function name(int $person): string
    {
        return User::query()->find($person)->name ?? '';
    }

    /** @return list<array<string, mixed>> what happened in a case, in words */
    private function story(ProcedureCase $case, Document $document, User $user, ProcedurePart $part): array
    {
        $record = $this->cases->record($case);
        $ids = [];
        foreach ($record as $entry) {
            array_push($ids, ...array_filter([$entry['by'], self::other($entry['event'])]));
        }
        $names = User::query()->findMany(array_unique($ids))->pluck('name', 'id')->all();
        // What others wrote may say what was removed from the document.
        $isBound = $this->redactions->binds($user, $document);
        $state = new CaseState();
        $lines = [];
        foreach ($record as $entry) {
            $event = $entry['event'];
            $before = $state;
            $state = $state->after([$event]);
            $step = $part->procedure->steps[(string) ($event instanceof Decided ? $before->step : $state->step)] ?? null;
            $said = self::words($event, $step, $names);
            if ($said !== null) {
                $lines[] = [
                    'at' => Carbon::parse($entry['at'])->toIso8601String(),
                    'kind' => $event->kind(),
                    'by' => $entry['by'] === null ? null : $names[$entry['by']] ?? '',
                    'step' => $step->name ?? '',
                    'says' => $said,
                    'text' => $isBound && $entry['by'] !== $user->id ? '' : self::text($event),
                ];
            }
        }

        return $lines;
    }

    /** Whom an event names beside who did it. */
    private static function other(Event $event): ?int
    {
        return match (true) {
            $event instanceof Given, $event instanceof Questioned => $event->to,
            $event instanceof Decided => $event->for,
            $event instanceof Left => $event->person,
            default => null,
        };
    }

    /** @param  array<int, string>  $names */
    private static function words(Event $event, ?Step $step, array $names): ?string
    {
        $other = $names[self::other($event) ?? 0] ?? '';

        return match (true) {
            $event instanceof Decided => ($step instanceof AskStep ? $step->decision($event->decision)->label ?? $event->decision : $event->decision).
                ($event->by === null ? ', by the deadline' : '').
                ($other === '' ? '' : ", for {$other}"),
            $event instanceof Entered => $event->by === null ? ($event->tasks === [] ? null : $step->name ?? '') : 'Moved to '.($step->name ?? ''),
            $event instanceof Taken => 'Taken',
            $event instanceof PutBack => 'Put back',
            $event instanceof Given => "Given to {$other}",
            $event instanceof Questioned => "Asked {$other}",
            $event instanceof Answered => 'Answered',
            $event instanceof Acted => $event->said,
            $event instanceof Stopped => 'Stopped',
            $event instanceof Resumed => 'Tried again',
            $event instanceof Reminded => 'Reminded',
            $event instanceof Overdue => 'Overdue',
            $event instanceof Left => "{$other} is gone; it is for others now",
            $event instanceof Ended => $step->name ?? '',
            $event instanceof GivenUp => 'Cancelled',
            default => null,
        };
    }

    private static function text(Event $event): string
    {
        return match (true) {
            $event instanceof Decided => $event->comment,
            $event instanceof Given => $event->note,
            $event instanceof Questioned, $event instanceof Answered => $event->text,
            $event instanceof Stopped => $event->why,
            $event instanceof GivenUp => $event->reason,
            default => '',
        };
    }
}
