<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Record\Answered;
use Brenvic\Core\Procedures\Record\AskedNext;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Entered;
use Brenvic\Core\Procedures\Record\Event;
use Brenvic\Core\Procedures\Record\Given;
use Brenvic\Core\Procedures\Record\Left;
use Brenvic\Core\Procedures\Record\Overdue;
use Brenvic\Core\Procedures\Record\Questioned;
use Brenvic\Core\Procedures\Record\Reminded;
use Brenvic\Core\Procedures\Record\Stopped;
use Brenvic\Core\Procedures\Record\Task as OpenTask;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Carbon;

/** Tells people what happened in a case that is for them. */
final readonly class CaseNotices
{
    public function __construct(private Rights $rights)
    {
    }

    /**
     * @param  CaseState  $state  as it was before the first of them
     * @param  list<Event>  $events
     */
    public function about(ProcedureCase $case, Document $document, ProcedurePart $part, CaseState $state, array $events): void
    {
        foreach ($events as $event) {
            $before = $state;
            $state = $state->after([$event]);
            match (true) {
                $event instanceof Entered => $this->opened($case, $document, $part, $state, $event->tasks),
                $event instanceof AskedNext => $this->opened($case, $document, $part, $state, [$event->task]),
                $event instanceof Given => $this->one(
                    $case,
                    $document,
                    $part,
                    $state,
                    $event->task,
                    NoticeKind::HandedOn,
                    [$event->to],
                    $event->by,
                    $event->note,
                ),
                $event instanceof Questioned => $this->one(
                    $case,
                    $document,
                    $part,
                    $state,
                    $event->task,
                    NoticeKind::Question,
                    [$event->to],
                    $event->by,
                    $event->text,
                ),
                $event instanceof Answered => $this->one(
                    $case,
                    $document,
                    $part,
                    $state,
                    $event->task,
                    NoticeKind::Answer,
                    array_filter([$before->tasks[$event->task]->asked['by'] ?? null]),
                    $event->by,
                    $event->text,
                ),
                $event instanceof Reminded => $this->holders($case, $document, $part, $state, $event->task, NoticeKind::Reminder),
                $event instanceof Overdue => $this->holders($case, $document, $part, $state, $event->task, NoticeKind::Overdue),
                $event instanceof Left => $this->opened($case, $document, $part, $state, array_filter([$state->tasks[$event->task] ?? null])),
                $event instanceof Stopped => $this->tell(
                    $case,
                    $document,
                    $part,
                    $state,
                    NoticeKind::Stopped,
                    self::people(new Audience([$part->keepers])),
                    ['text' => $event->why],
                    null,
                ),
                default => null,
            };
        }
    }

    /** @param  array<OpenTask>  $tasks */
    private function opened(ProcedureCase $case, Document $document, ProcedurePart $part, CaseState $state, array $tasks): void
    {
        foreach ($tasks as $task) {
            // Who is asked more than once is told once.
            if (isset($state->tasks[$task->number])) {
                $this->holders($case, $document, $part, $state, $task->number, NoticeKind::Task);
            }
        }
    }

    private function holders(ProcedureCase $case, Document $document, ProcedurePart $part, CaseState $state, int $number, NoticeKind $kind): void
    {
        $task = $state->tasks[$number] ?? null;
        if ($task !== null) {
            $people = self::people($task->holder === null ? $task->audience : new Audience([], [$task->holder]))
                ->reject(static fn (User $user): bool => in_array($user->id, $task->excluded, true));
            $due = $task->due === null ? '' : Carbon::parse($task->due)->format('j M Y');
            $this->tell($case, $document, $part, $state, $kind, $people, ['due' => $due], $number);
        }
    }

    /** @param  array<int>  $to */
    private function one(
        ProcedureCase $case,
        Document $document,
        ProcedurePart $part,
        CaseState $state,
        int $task,
        NoticeKind $kind,
        array $to,
        int $by,
        string $text,
    ): void {
        $this->tell(
            $case,
            $document,
            $part,
            $state,
            $kind,
            self::people(new Audience([], array_values($to))),
            ['by' => User::query()->find($by)->name ?? '', 'text' => $text],
            $task,
        );
    }

    /**
     * @param  Collection<int, User>  $people
     * @param  array<string, string>  $fields
     * @param  int|null  $task  that it leads to
     */
    private function tell(
        ProcedureCase $case,
        Document $document,
        ProcedurePart $part,
        CaseState $state,
        NoticeKind $kind,
        Collection $people,
        array $fields,
        ?int $task,
    ): void {
        $step = $part->procedure->steps[(string) $state->step] ?? null;
        $id = $task === null ? null : Task::query()->where('case_id', $case->id)->where('number', $task)->value('id');
        Notices::tell(
            $this->rights->seers($people, $document),
            $kind,
            [
                'document' => $document->title,
                'procedure' => $part->name,
                'step' => $step->name ?? '',
                'question' => $step instanceof AskStep ? $step->question : '',
                ...$fields,
            ],
            $id === null ? "/documents/{$document->ref}" : "/tasks/{$id}",
            $document,
        );
    }

    /** @return Collection<int, User> those in use */
    private static function people(Audience $audience): Collection
    {
        return User::among($audience->groups, $audience->people)->get();
    }
}
