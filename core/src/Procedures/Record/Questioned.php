<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** Whoever has to decide asked somebody something first. */
final readonly class Questioned extends Event
{
    public function __construct(public int $task, public int $by, public int $to, public string $text)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        $task = $state->tasks[$this->task] ?? null;

        return $task === null
            ? $state
            : $state->withTask($task->heldBy($this->by)->asking(['by' => $this->by, 'to' => $this->to, 'text' => $this->text]));
    }

    public function by(): int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['task' => $this->task, 'to' => $this->to, 'text' => $this->text];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self(
            (int) Detail::number($detail, 'task'),
            (int) $by,
            (int) Detail::number($detail, 'to'),
            Detail::text($detail, 'text'),
        );
    }
}
