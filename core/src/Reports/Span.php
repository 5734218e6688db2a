<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

use DateTimeImmutable;
use InvalidArgumentException;

/** The days that a report is about, told by day where they are few and by month where they are many. */
final readonly class Span
{
    /** So many days are told one by one. */
    private const DAYS = 62;

    public DateTimeImmutable $from;

    public DateTimeImmutable $until;

    /** @param  string  $from  the first day, as 2026-11-01; `$until` the last */
    public function __construct(string $from, string $until)
    {
        $this->from = new DateTimeImmutable("{$from} 00:00 UTC");
        $this->until = new DateTimeImmutable("{$until} 00:00 UTC");
        if ($this->until < $this->from) {
            throw new InvalidArgumentException('The last day is before the first.');
        }
    }

    /** The month before the one of a day, whole. */
    public static function monthBefore(DateTimeImmutable $day): self
    {
        $last = $day->modify('last day of previous month');

        return new self($last->format('Y-m-01'), $last->format('Y-m-d'));
    }

    public function first(): string
    {
        return $this->from->format('Y-m-d');
    }

    public function last(): string
    {
        return $this->until->format('Y-m-d');
    }

    /** The day after the last: what is before it is within. */
    public function end(): string
    {
        return $this->until->modify('+1 day')->format('Y-m-d');
    }

    public function isByDay(): bool
    {
        return $this->until->diff($this->from)->days < self::DAYS;
    }

    /** The day or the month that a day, or a time of it, is told with. */
    public function piece(string $day): string
    {
        return substr($day, 0, $this->isByDay() ? 10 : 7);
    }

    /** @return list<string> all of them in order, also those in which nothing was */
    public function pieces(): array
    {
        $pieces = [];
        $step = $this->isByDay() ? '+1 day' : 'first day of next month';
        for ($day = $this->from; $day <= $this->until; $day = $day->modify($step)) {
            $pieces[] = $this->piece($day->format('Y-m-d'));
        }

        return $pieces;
    }
}
