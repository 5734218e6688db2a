<?php

declare(strict_types=1);

namespace App\Models;

/** How a version came to be. */
enum MadeHow: string
{
    case Filed = 'filed';
    case CheckedIn = 'checked_in';
    case MadeCurrent = 'made_current';
    case PageWork = 'page_work';
    case Returned = 'returned';
    case Arrived = 'arrived';

    public function words(): string
    {
        return match ($this) {
            self::Filed => 'as received',
            self::CheckedIn => 'checked in',
            self::MadeCurrent => 'earlier version made current again',
            self::PageWork => 'pages rearranged',
            self::Returned => 'returned from a loan',
            self::Arrived => 'arrived and filed as a version',
        };
    }
}
