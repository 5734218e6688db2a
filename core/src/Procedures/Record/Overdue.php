<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Shape\Detail;

/** The deadline of a task is over. */
final readonly class Overdue extends Event
{
    /** @param  Audience|null  $to  who is asked instead from now on */
    public function __construct(public int $task, public ?Audience $to = null)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return isset($state->tasks[$this->task]) ? $state->withTask($state->tasks[$this->task]->overdue($this->to)) : $state;
    }

    public function detail(): array
    {
        return ['task' => $this->task, 'to' => $this->to?->detail()];
    }

    protected static function read(?int $by, array $detail): self
    {
        $to = $detail['to'] ?? null;

        return new self((int) Detail::number($detail, 'task'), is_array($to) ? Audience::of($to) : null);
    }
}
