<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

/** How it stands with the time that a document is kept. */
enum KeepingState: string
{
    /** It is known from which day on something is to be done with it. */
    case Dated = 'dated';
    /** The period has not begun: what begins it is still to come. */
    case Waiting = 'waiting';
    /** A rule is in force and the date that it counts from is missing: somebody has to give it. */
    case NoDate = 'no_date';
    case Permanent = 'permanent';
    /** A decision, or a value, keeps it from falling due. */
    case Lifted = 'lifted';
    case NoRule = 'no_rule';
    /** What is left of it says that it was there. */
    case Destroyed = 'destroyed';

    /** Whether it has to be kept until it is due, or until somebody decides. */
    public function keeps(): bool
    {
        return $this !== self::NoRule && $this !== self::Destroyed;
    }

    public function label(): string
    {
        return match ($this) {
            self::Dated => 'Kept until a date',
            self::Waiting => 'Period not begun',
            self::NoDate => 'Date missing',
            self::Permanent => 'Kept permanently',
            self::Lifted => 'Exempt from its rule',
            self::NoRule => 'No rule',
            self::Destroyed => 'Destroyed',
        };
    }
}
