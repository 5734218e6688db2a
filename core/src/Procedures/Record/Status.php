<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

/** What a case is doing. */
enum Status: string
{
    /** It has not begun. */
    case Fresh = 'fresh';

    /** Somebody has to decide. */
    case Waiting = 'waiting';

    /** A step acts by itself. */
    case Acting = 'acting';

    /** It could not go on, and says why. */
    case Stopped = 'stopped';

    case Ended = 'ended';

    /** Somebody gave it up. */
    case GivenUp = 'given_up';

    public function isOver(): bool
    {
        return $this === self::Ended || $this === self::GivenUp;
    }
}
