<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Support\OfficeSetting;
use Brenvic\Core\Procedures\WorkingDays;
use DateTimeImmutable;

/** The days on which the office works, as it has set them. */
final class OfficeCalendar
{
    private const SETTING = 'working_days';

    /** @return array{days: list<int>, holidays: list<string>} */
    public static function read(): array
    {
        $set = OfficeSetting::get(self::SETTING);
        $set = is_array($set) ? $set : [];

        return [
            'days' => array_values(array_map(intval(...), is_array($set['days'] ?? null) ? $set['days'] : [1, 2, 3, 4, 5])),
            'holidays' => array_values(array_map(strval(...), is_array($set['holidays'] ?? null) ? $set['holidays'] : [])),
        ];
    }

    /**
     * @param  list<int>  $days
     * @param  list<string>  $holidays
     */
    public static function write(array $days, array $holidays): void
    {
        sort($days);
        sort($holidays);
        OfficeSetting::put(self::SETTING, ['days' => array_values(array_unique($days)), 'holidays' => array_values(array_unique($holidays))]);
    }

    /** The working day that is so many after today, as 2026-03-01. */
    public static function after(int $days): string
    {
        ['days' => $open, 'holidays' => $holidays] = self::read();

        return (new WorkingDays($open, $holidays))->after(new DateTimeImmutable(now()->toDateString()), $days)->format('Y-m-d');
    }
}
