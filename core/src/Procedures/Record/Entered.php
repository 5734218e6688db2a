<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** The case came to a step. */
final readonly class Entered extends Event
{
    /**
     * @param  list<Task>  $tasks  what waits there; none where the step acts by itself
     * @param  int|null  $by  who moved it there by hand
     */
    public function __construct(public string $step, public array $tasks = [], public ?int $by = null)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state->with(
            step: $this->step,
            status: $this->tasks === [] ? Status::Acting : Status::Waiting,
            tasks: array_column(array_map(static fn (Task $task): array => [$task->number, $task], $this->tasks), 1, 0),
            // Whoever moves it by hand has looked at the circle that it was in.
            rounds: $this->by === null ? [...$state->rounds, $this->step => ($state->rounds[$this->step] ?? 0) + 1] : [$this->step => 1],
            deciders: [...$state->deciders, $this->step => []],
            choice: null,
            acted: 0,
            fault: '',
            parties: count($this->tasks),
            lastTask: max($state->lastTask, ...array_map(static fn (Task $task): int => $task->number, $this->tasks), ...[0]),
        );
    }

    public function by(): ?int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['step' => $this->step, 'tasks' => array_map(static fn (Task $task): array => $task->detail(), $this->tasks)];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self(Detail::text($detail, 'step'), array_map(Task::of(...), Detail::each($detail, 'tasks')), $by);
    }
}
