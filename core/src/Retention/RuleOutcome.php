<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

/** What one rule says of one document. */
final readonly class RuleOutcome
{
    /**
     * @param  int|null  $due  the day from which on its action is due, as PartialDate counts them
     * @param  string  $why  there is no such day, or it does not count
     */
    public function __construct(
        public RetentionRule $rule,
        public KeepingState $state,
        public ?int $due = null,
        public string $why = '',
    ) {
    }

    /** Which of several keeps longest: permanently, lifted, no date known, not begun, then the latest date. */
    public function length(): int
    {
        return match ($this->state) {
            KeepingState::Permanent => PHP_INT_MAX,
            KeepingState::Lifted => PHP_INT_MAX - 1,
            KeepingState::NoDate => PHP_INT_MAX - 2,
            KeepingState::Waiting => PHP_INT_MAX - 3,
            default => (int) $this->due,
        };
    }

    /** Of two that keep equally long, the one that takes less away comes first. */
    public function caution(): int
    {
        return match ($this->rule->action) {
            RetentionAction::Keep => 3,
            RetentionAction::Review => 2,
            RetentionAction::HandOver => 1,
            RetentionAction::Destroy => 0,
        };
    }
}
