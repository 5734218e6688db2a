<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** Which number of a date like 3/4/2024 is the day. A column is written in one order, so that it is decided once. */
enum DateOrder: string
{
    case DayFirst = 'day_first';
    case MonthFirst = 'month_first';
}
