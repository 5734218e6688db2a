<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

use DateTimeImmutable;

/**
 * A calendar date known to the day, the month or only the year (ISO 8601 reduced precision: `2024`, `2024-03`,
 * `2024-03-14`). It stands for the whole span of days it names. Days are counted from 0001-01-01 = 1 in the
 * proleptic Gregorian calendar, so that they are small, positive and in order.
 */
final readonly class PartialDate
{
    private const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

    /** `gregoriantojd(1, 1, 1) - 1`, so that 0001-01-01 is day 1. */
    private const EPOCH = 1721425;

    private function __construct(
        public int $year,
        public ?int $month,
        public ?int $day,
    ) {
    }

    /**
     * Reads ISO dates and the ways people write them: `14 Mar 2024`, `14/3/2024`, `March 2024`, `2024`.
     * Two-digit years are refused: in a records office they are a guess.
     *
     * @throws InvalidValue
     */
    public static function parse(string $text): self
    {
        $text = trim($text);
        if (preg_match('/^(\d{4})(?:-(\d{1,2})(?:-(\d{1,2}))?)?$/', $text, $m) === 1) {
            return self::checked($text, (int) $m[1], isset($m[2]) ? (int) $m[2] : null, isset($m[3]) ? (int) $m[3] : null);
        }
        $text = mb_strtolower($text);
        $names = implode('|', self::MONTHS);
        if (preg_match('#^(\d{1,2})[./](\d{1,2})[./](\d{4})$#', $text, $m) === 1) {
            return self::checked($text, (int) $m[3], (int) $m[2], (int) $m[1]);
        }
        if (preg_match("/^(?:(\d{1,2})\.?\s+)?($names)[a-z]*\.?,?\s+(\d{4})$/", $text, $m) === 1) {
            return self::checked($text, (int) $m[3], (int) array_search($m[2], self::MONTHS, true) + 1, $m[1] === '' ? null : (int) $m[1]);
        }

        throw new InvalidValue("“{$text}” is not a date. Write it like 14 Mar 2024, 2024-03-14, Mar 2024 or 2024.");
    }

    public static function ofDay(int $day): self
    {
        [$month, $dayOfMonth, $year] = array_map(intval(...), explode('/', jdtogregorian($day + self::EPOCH)));

        return new self($year, $month, $dayOfMonth);
    }

    private static function checked(string $text, int $year, ?int $month, ?int $day): self
    {
        if ($year < 1 || ($month !== null && ($month < 1 || $month > 12))) {
            throw new InvalidValue("“{$text}” is not a date: there is no month {$month}.");
        }
        if ($day !== null && ! checkdate($month ?? 1, $day, $year)) {
            throw new InvalidValue("“{$text}” is not a date: that month has no day {$day}.");
        }

        return new self($year, $month, $day);
    }

    /** ISO 8601, as precise as it is known. */
    public function iso(): string
    {
        return match (true) {
            $this->day !== null => sprintf('%04d-%02d-%02d', $this->year, $this->month, $this->day),
            $this->month !== null => sprintf('%04d-%02d', $this->year, $this->month),
            default => sprintf('%04d', $this->year),
        };
    }

    /** For people: `14 Mar 2024`, `Mar 2024`, `2024`. */
    public function display(): string
    {
        $month = $this->month === null ? '' : ucfirst(self::MONTHS[$this->month - 1]).' ';

        return ($this->day === null ? '' : $this->day.' ').$month.$this->year;
    }

    public function firstDay(): int
    {
        return gregoriantojd($this->month ?? 1, $this->day ?? 1, $this->year) - self::EPOCH;
    }

    public function lastDay(): int
    {
        if ($this->day !== null) {
            return $this->firstDay();
        }
        $month = $this->month ?? 12;
        $last = (int) (new DateTimeImmutable)->setDate($this->year, $month, 1)->format('t');

        return gregoriantojd($month, $last, $this->year) - self::EPOCH;
    }
}
