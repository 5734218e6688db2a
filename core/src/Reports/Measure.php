<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

/** What the figures in a column of a report are. */
enum Measure: string
{
    case Text = 'text';
    case Count = 'count';

    /** In whole bytes. */
    case Bytes = 'bytes';

    /** Of a hundred. */
    case Percent = 'percent';
    case Milliseconds = 'milliseconds';
    case Hours = 'hours';

    /** As 2026-11-29; a month as 2026-11. */
    case Day = 'day';

    /** ISO 8601, in UTC. */
    case Moment = 'moment';

    public function isNumber(): bool
    {
        return ! in_array($this, [self::Text, self::Day, self::Moment], true);
    }
}
