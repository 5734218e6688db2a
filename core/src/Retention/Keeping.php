<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** How long one document is kept, by which of its rules, and why. */
final readonly class Keeping
{
    /**
     * @param  int|null  $due  the day from which on the action is due, as PartialDate counts them
     * @param  RetentionRule|null  $rule  the one in force
     * @param  string  $reason  in words
     * @param  list<RuleOutcome>  $outcomes  of all its rules, the one in force first
     */
    private function __construct(
        public KeepingState $state,
        public ?int $due = null,
        public ?RetentionRule $rule = null,
        public string $reason = '',
        public array $outcomes = [],
    ) {
    }

    public static function destroyed(): self
    {
        return new self(KeepingState::Destroyed, null, null, 'destroyed');
    }

    /**
     * Of several rules the one that keeps longest is in force. Where one of them cannot be told, neither can the longest: it
     * is never taken for shorter than it may be.
     *
     * @param  list<RuleOutcome>  $outcomes
     */
    public static function of(KeptDocument $document, array $outcomes): self
    {
        if ($document->exempt !== null) {
            return new self(KeepingState::Lifted, null, $outcomes[0]->rule ?? null, "exempt by decision: {$document->exempt}", $outcomes);
        }
        if ($outcomes === []) {
            return new self(KeepingState::NoRule, null, null, 'no rule covers it');
        }
        usort(
            $outcomes,
            static fn (RuleOutcome $a, RuleOutcome $b): int => [$b->length(), $b->caution()] <=> [$a->length(), $a->caution()],
        );
        $first = $outcomes[0];
        $reason = $first->rule->reason();
        if ($first->why !== '') {
            $reason .= $first->state === KeepingState::Lifted ? ", but exempt {$first->why}" : "; {$first->why}";
        }
        if ($document->restarted !== null && $first->state === KeepingState::Dated) {
            $reason .= ', begun anew on '.PartialDate::parse($document->restarted)->display();
        }
        if (count($outcomes) > 1) {
            $reason .= count($outcomes) === 2 ? '; the longer of 2 rules' : '; the longest of '.count($outcomes).' rules';
        }
        $due = $first->due;
        $put = $document->postponed === null ? 0 : PartialDate::parse($document->postponed)->firstDay();
        if ($due !== null && $put > $due) {
            $due = $put;
            $reason .= '; postponed to '.PartialDate::ofDay($put)->display();
        }

        return new self($first->state, $due, $first->rule, $reason, $outcomes);
    }

    /** What is to be done once it is due; null where nothing is. */
    public function action(): ?RetentionAction
    {
        return $this->rule?->action;
    }

    public function dueOn(): ?PartialDate
    {
        return $this->due === null ? null : PartialDate::ofDay($this->due);
    }

    /** @param  int  $today  as PartialDate counts days */
    public function isDue(int $today): bool
    {
        return $this->due !== null && $this->due <= $today;
    }
}
