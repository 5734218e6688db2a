<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** Somebody gave the case up. */
final readonly class GivenUp extends Event
{
    public function __construct(public int $by, public string $reason)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state->with(status: Status::GivenUp, tasks: [], choice: null, fault: '');
    }

    public function by(): int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['reason' => $this->reason];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self((int) $by, Detail::text($detail, 'reason'));
    }
}
