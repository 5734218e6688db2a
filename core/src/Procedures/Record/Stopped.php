<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** The case could not go on. */
final readonly class Stopped extends Event
{
    /** @param  string  $why  for people */
    public function __construct(public string $why)
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state->with(status: Status::Stopped, fault: $this->why);
    }

    public function detail(): array
    {
        return ['why' => $this->why];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self(Detail::text($detail, 'why'));
    }
}
