<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\PartialDate;

/** From when a period is counted: the day itself, or the end of the year that it is in. */
enum CountedFrom: string
{
    case Day = 'day';
    case YearEnd = 'year';
    case FiscalYearEnd = 'fiscal_year';

    public function words(): string
    {
        return match ($this) {
            self::Day => '',
            self::YearEnd => 'the end of the year of ',
            self::FiscalYearEnd => 'the end of the fiscal year of ',
        };
    }

    /**
     * @param  int  $day  as PartialDate counts them
     * @param  int  $start  month that the fiscal year begins with
     */
    public function of(int $day, int $start): int
    {
        $date = PartialDate::ofDay($day);

        return match ($this) {
            self::Day => $day,
            self::YearEnd => PartialDate::parse(sprintf('%04d', $date->year))->lastDay(),
            self::FiscalYearEnd => PartialDate::parse(
                sprintf('%04d-%02d', $date->year + ((int) $date->month >= $start ? 1 : 0), $start),
            )->firstDay() - 1,
        };
    }
}
