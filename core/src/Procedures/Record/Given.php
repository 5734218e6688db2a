<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** A task was given on to somebody. */
final readonly class Given extends Event
{
    public function __construct(public int $task, public int $by, public int $to, public string $note = '')
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        $task = $state->tasks[$this->task] ?? null;

        // What nobody could decide has somebody again.
        return $task === null ? $state : $state->withTask($task->heldBy($this->to)->asking(null))->with(status: Status::Waiting, fault: '');
    }

    public function by(): int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['task' => $this->task, 'to' => $this->to, 'note' => $this->note];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self(
            (int) Detail::number($detail, 'task'),
            (int) $by,
            (int) Detail::number($detail, 'to'),
            Detail::text($detail, 'note'),
        );
    }
}
