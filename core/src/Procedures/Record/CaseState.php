<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

/** Where a case stands: what its record comes to. */
final readonly class CaseState
{
    /**
     * @param  int  $length  of the record that it was made of
     * @param  string|null  $step  the one step it is at; null before it begins
     * @param  array<int, Task>  $tasks  what waits, by number
     * @param  array<string, int>  $rounds  how often each step was entered
     * @param  array<string, list<int>>  $deciders  who decided in the last round of each step
     * @param  string|null  $decision  that was made last, whatever the step
     * @param  string|null  $choice  that was made in this step while no way on was found yet
     * @param  int  $acted  how many acts of this step are done
     * @param  string  $fault  why it could not go on
     * @param  int  $parties  how many of those whom this step asks were asked
     */
    public function __construct(
        public int $length = 0,
        public ?string $step = null,
        public Status $status = Status::Fresh,
        public array $tasks = [],
        public array $rounds = [],
        public array $deciders = [],
        public ?string $decision = null,
        public ?string $choice = null,
        public int $acted = 0,
        public string $fault = '',
        public int $parties = 0,
        public int $lastTask = 0,
    ) {
    }

    /** @param  iterable<Event>  $events  the record of a case, or what follows it */
    public function after(iterable $events): self
    {
        $state = $this;
        foreach ($events as $event) {
            $state = $event->applyTo($state)->with(length: $state->length + 1);
        }

        return $state;
    }

    /**
     * The same with some things changed.
     *
     * @param  array<int, Task>|null  $tasks
     * @param  array<string, int>|null  $rounds
     * @param  array<string, list<int>>|null  $deciders
     * @param  string|false|null  $choice  false leaves it
     */
    public function with(
        ?int $length = null,
        ?string $step = null,
        ?Status $status = null,
        ?array $tasks = null,
        ?array $rounds = null,
        ?array $deciders = null,
        ?string $decision = null,
        string|false|null $choice = false,
        ?int $acted = null,
        ?string $fault = null,
        ?int $parties = null,
        ?int $lastTask = null,
    ): self {
        return new self(
            $length ?? $this->length,
            $step ?? $this->step,
            $status ?? $this->status,
            $tasks ?? $this->tasks,
            $rounds ?? $this->rounds,
            $deciders ?? $this->deciders,
            $decision ?? $this->decision,
            $choice === false ? $this->choice : $choice,
            $acted ?? $this->acted,
            $fault ?? $this->fault,
            $parties ?? $this->parties,
            $lastTask ?? $this->lastTask,
        );
    }

    /** With a task as it is now. */
    public function withTask(Task $task): self
    {
        return $this->with(tasks: [$task->number => $task] + $this->tasks);
    }

    /** @return list<int> who decided in this round of the step it is at */
    public function decided(): array
    {
        return $this->deciders[(string) $this->step] ?? [];
    }
}
