<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** Those who have a task were reminded of it. */
final readonly class Reminded extends Event
{
    public function __construct(public int $task)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return isset($state->tasks[$this->task]) ? $state->withTask($state->tasks[$this->task]->reminded()) : $state;
    }

    public function detail(): array
    {
        return ['task' => $this->task];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self((int) Detail::number($detail, 'task'));
    }
}
