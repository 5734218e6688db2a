<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Shape\Detail;

/** A decision was made on a task. */
final readonly class Decided extends Event
{
    /**
     * @param  int|null  $by  null where it counts so because the deadline is over
     * @param  int|null  $for  whom they stood in for
     * @param  bool  $isLast  whether the step is decided by it
     */
    public function __construct(
        public int $task,
        public ?int $by,
        public string $decision,
        public string $comment = '',
        public ?int $for = null,
        public bool $isLast = true,
    ) {
    }

    public function applyTo(CaseState $state): CaseState
    {
        $step = (string) $state->step;

        return $state->with(
            // Whoever else was asked need not answer any more.
            tasks: $this->isLast ? [] : array_diff_key($state->tasks, [$this->task => true]),
            status: $this->isLast ? Status::Acting : $state->status,
            deciders: [...$state->deciders, $step => [...$state->deciders[$step] ?? [], ...array_filter([$this->by, $this->for])]],
            decision: $this->decision,
            choice: $this->isLast ? $this->decision : $state->choice,
        );
    }

    public function by(): ?int
    {
        return $this->by;
    }

    public function detail(): array
    {
        return [
            'task' => $this->task,
            'decision' => $this->decision,
            'comment' => $this->comment,
            'for' => $this->for,
            'last' => $this->isLast,
        ];
    }

    protected static function read(?int $by, array $detail): self
    {
        return new self(
            (int) Detail::number($detail, 'task'),
            $by,
            Detail::text($detail, 'decision'),
            Detail::text($detail, 'comment'),
            Detail::number($detail, 'for'),
            ($detail['last'] ?? true) === true,
        );
    }
}
