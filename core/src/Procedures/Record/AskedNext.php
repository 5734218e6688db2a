<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

/** The next of those who are asked in turn was asked, or those whom nobody was there for. */
final readonly class AskedNext extends Event
{
    public function __construct(public Task $task)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state
            ->withTask($this->task)
            ->with(
                status: Status::Waiting,
                choice: null,
                fault: '',
                parties: $state->parties + 1,
                lastTask: max($state->lastTask, $this->task->number),
            );
    }

    public function detail(): array
    {
        return ['task' => $this->task->detail()];
    }

    protected static function read(?int $by, array $detail): self
    {
        $task = $detail['task'] ?? null;

        return new self(Task::of(is_array($task) ? $task : []));
    }
}
