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

    public function words(): string
    {
        return match ($this) {
            self::Filed => 'as it came',
            self::CheckedIn => 'checked in',
            self::MadeCurrent => 'an earlier one made current again',
            self::PageWork => 'its pages were worked on',
            self::Returned => 'returned from a loan',
        };
    }
}
