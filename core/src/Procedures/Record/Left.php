<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Shape\Detail;

/** Somebody who had a task, or was asked, is gone; it is for others now. */
final readonly class Left extends Event
{
    /** @param  Audience|null  $instead  who is asked in their place; null where others were asked too */
    public function __construct(public int $task, public int $person, public ?Audience $instead = null)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return isset($state->tasks[$this->task]) ? $state->withTask($state->tasks[$this->task]->without($this->person, $this->instead)) : $state;
    }

    public function detail(): array
    {
        return ['task' => $this->task, 'person' => $this->person, 'instead' => $this->instead?->detail()];
    }

    protected static function read(?int $by, array $detail): self
    {
        $instead = $detail['instead'] ?? null;

        return new self(
            (int) Detail::number($detail, 'task'),
            (int) Detail::number($detail, 'person'),
            is_array($instead) ? Audience::of($instead) : null,
        );
    }
}
