<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

/** Somebody had a case go on that had stopped. */
final readonly class Resumed extends Event
{
    public function __construct(public int $by)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state->with(status: $state->tasks === [] ? Status::Acting : Status::Waiting, fault: '');
    }

    public function by(): int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return [];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self((int) $by);
    }
}
