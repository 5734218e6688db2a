<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** What was asked before a decision was answered. */
final readonly class Answered extends Event
{
    public function __construct(public int $task, public int $by, public string $text)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return isset($state->tasks[$this->task]) ? $state->withTask($state->tasks[$this->task]->asking(null)) : $state;
    }

    public function by(): int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['task' => $this->task, 'text' => $this->text];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self((int) Detail::number($detail, 'task'), (int) $by, Detail::text($detail, 'text'));
    }
}
