<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** Whoever had a task put it back for the others. */
final readonly class PutBack extends Event
{
    public function __construct(public int $task, public int $by)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return isset($state->tasks[$this->task]) ? $state->withTask($state->tasks[$this->task]->heldBy(null)) : $state;
    }

    public function by(): int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['task' => $this->task];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self((int) Detail::number($detail, 'task'), (int) $by);
    }
}
