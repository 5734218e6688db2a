<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\PartialDate;

/** How long something is kept, in years and months of the calendar. */
final readonly class Period
{
    public function __construct(
        public int $years,
        public int $months,
        public CountedFrom $from = CountedFrom::Day,
    ) {
    }

    /**
     * The day on which it is over. A day that its month does not have is the last of the month: a year after 29 February is
     * 28 February.
     *
     * @param  int  $day  as PartialDate counts them
     * @param  int  $start  month that the fiscal year begins with
     */
    public function after(int $day, int $start): int
    {
        $from = PartialDate::ofDay($this->from->of($day, $start));
        $months = $from->year * 12 + (int) $from->month - 1 + $this->years * 12 + $this->months;
        // Dates of the calendar have four digits.
        $year = min(9999, intdiv($months, 12));
        $month = PartialDate::parse(sprintf('%04d-%02d', $year, $months % 12 + 1));

        return min($month->firstDay() + (int) $from->day - 1, $month->lastDay());
    }

    public function words(): string
    {
        $parts = [];
        foreach (['year' => $this->years, 'month' => $this->months] as $unit => $count) {
            if ($count > 0) {
                $parts[] = $count === 1 ? "1 {$unit}" : "{$count} {$unit}s";
            }
        }

        return $parts === [] ? 'at once' : implode(' and ', $parts);
    }
}
