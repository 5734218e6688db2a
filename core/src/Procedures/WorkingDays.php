<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures;

use DateTimeImmutable;

/** The days on which an office works. */
final readonly class WorkingDays
{
    /** No office is closed for so many days in a row. */
    private const MOST_CLOSED = 400;

    /**
     * @param  list<int>  $days  of the week, as ISO 8601 numbers them: 1 is Monday
     * @param  list<string>  $holidays  as 2026-12-25
     */
    public function __construct(private array $days = [1, 2, 3, 4, 5], private array $holidays = [])
    {
    }

    public function isOne(DateTimeImmutable $day): bool
    {
        return in_array((int) $day->format('N'), $this->days, true) && ! in_array($day->format('Y-m-d'), $this->holidays, true);
    }

    /** The working day that is so many after a day, which does not count itself. */
    public function after(DateTimeImmutable $day, int $count): DateTimeImmutable
    {
        $closed = 0;
        while ($count > 0 && $closed < self::MOST_CLOSED) {
            $day = $day->modify('+1 day');
            $isOne = $this->isOne($day);
            $count -= $isOne ? 1 : 0;
            $closed = $isOne ? 0 : $closed + 1;
        }

        return $day;
    }
}
