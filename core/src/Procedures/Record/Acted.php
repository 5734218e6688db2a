<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** An act of the step was done; recorded together with it, so that it is done once. */
final readonly class Acted extends Event
{
    /**
     * @param  int  $act  which of those of the step, from 0
     * @param  string  $said  what came of it, in words
     */
    public function __construct(public int $act, public string $said = '')
    {
    }

    public function applyTo(CaseState $state): CaseState
    {
        return $state->with(acted: $this->act + 1, status: Status::Acting, fault: '');
    }

    public function detail(): array
    {
        return ['act' => $this->act, 'said' => $this->said];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self((int) Detail::number($detail, 'act'), Detail::text($detail, 'said'));
    }
}
