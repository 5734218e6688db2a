<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** The case came to an end. */
final readonly class Ended extends Event
{
    /** @param  string  $step  which end */
    public function __construct(public string $step, public ?int $by = null)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state->with(step: $this->step, status: Status::Ended, tasks: [], choice: null, fault: '');
    }

    public function by(): ?int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return ['step' => $this->step];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self(Detail::text($detail, 'step'), $by);
    }
}
