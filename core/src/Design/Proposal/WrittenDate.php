<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/**
 * Dates in the forms that registers have them in: ISO 8601 in full and in short (20240314), with the year first and any sign,
 * numbers parted by slashes, dots, hyphens or spaces in either order, months in words before or behind the day, months and years
 * alone; a time of day behind is left out. Years have four digits: of two the century would be a guess.
 */
final class WrittenDate
{
    private const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

    /** As a regular expression, in small letters. */
    public const NAMES = 'jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?'.
        '|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?';

    private const TIME = '/[T ,]+\d{1,2}[:.h]\d{2}(?:[:.]\d{2}(?:[.,]\d+)?)?\s*(?:[ap]\.?m\.?)?\s*(?:Z|UTC|GMT|[+-]\d{2}:?\d{2})?$/i';

    /** Between these years a number of four digits may be one. */
    private const YEARS = [1000, 2100];

    /** @return string|null the date as ISO 8601, as precise as it is; null when it is none */
    public static function read(string $text, DateOrder $order): ?string
    {
        $plain = strtolower((string) preg_replace(self::TIME, '', trim($text, " \t\n\r\0\x0B.,")));
        if ($plain === '' || strlen($plain) > 24 || strpbrk($plain, '0123456789') === false) {
            return null;
        }
        if (preg_match('/^(\d{4})(?:[-.\/ ](\d{1,2})(?:[-.\/ ](\d{1,2}))?)?$/', $plain, $m) === 1) {
            return self::date((int) $m[1], isset($m[2]) ? (int) $m[2] : null, isset($m[3]) ? (int) $m[3] : null);
        }
        if (preg_match('/^(\d{4})(\d{2})(\d{2})$/', $plain, $m) === 1) {
            return self::date((int) $m[1], (int) $m[2], (int) $m[3]);
        }
        if (preg_match('/^(\d{1,2})[-.\/ ]\s?(\d{1,2})[-.\/ ]\s?(\d{4})$/', $plain, $m) === 1) {
            return $order === DateOrder::DayFirst
                ? self::date((int) $m[3], (int) $m[2], (int) $m[1])
                : self::date((int) $m[3], (int) $m[1], (int) $m[2]);
        }
        if (preg_match('/^(\d{1,2})[-.\/](\d{4})$/', $plain, $m) === 1) {
            return self::date((int) $m[2], (int) $m[1], null);
        }
        $names = self::NAMES;
        if (preg_match("/^(?:(\d{1,2})(?:st|nd|rd|th)?[-. ]*(?:of )?)?({$names})[-., ]*(\d{4})$/", $plain, $m) === 1) {
            return self::date((int) $m[3], self::month($m[2]), $m[1] === '' ? null : (int) $m[1]);
        }
        if (preg_match("/^({$names})[-. ]*(\d{1,2})(?:st|nd|rd|th)?[-., ]+(\d{4})$/", $plain, $m) === 1) {
            return self::date((int) $m[3], self::month($m[1]), (int) $m[2]);
        }
        if (preg_match("/^(\d{4})[-., ]+({$names})(?:[-. ]+(\d{1,2}))?$/", $plain, $m) === 1) {
            return self::date((int) $m[1], self::month($m[2]), isset($m[3]) ? (int) $m[3] : null);
        }

        return null;
    }

    /**
     * What two numbers before a year tell of their order.
     *
     * @return DateOrder|null null when they tell nothing
     */
    public static function order(string $text): ?DateOrder
    {
        if (preg_match('/^\s*(\d{1,2})[-.\/ ]\s?(\d{1,2})[-.\/ ]\s?\d{4}(?:\D|$)/', $text, $m) !== 1) {
            return null;
        }

        return match (true) {
            (int) $m[1] > 12 && (int) $m[2] <= 12 => DateOrder::DayFirst,
            (int) $m[2] > 12 && (int) $m[1] <= 12 => DateOrder::MonthFirst,
            default => null,
        };
    }

    /** @return string|null both ends as an ISO 8601 interval; null when it is no stretch of days */
    public static function readRange(string $text, DateOrder $order): ?string
    {
        foreach ([' to ', ' until ', ' – ', ' — ', '–', ' - ', '/'] as $sign) {
            $ends = explode($sign, $text);
            if (count($ends) === 2) {
                [$from, $to] = [self::read($ends[0], $order), self::read($ends[1], $order)];
                if ($from !== null && $to !== null && strcmp($from, $to) <= 0) {
                    return "{$from}/{$to}";
                }
            }
        }

        return null;
    }

    private static function month(string $name): int
    {
        return (int) array_search(substr($name, 0, 3), self::MONTHS, true) + 1;
    }

    private static function date(int $year, ?int $month, ?int $day): ?string
    {
        if ($year < self::YEARS[0] || $year > self::YEARS[1] || ($month !== null && ($month < 1 || $month > 12))) {
            return null;
        }
        if ($day !== null && ! checkdate($month ?? 1, $day, $year)) {
            return null;
        }

        return match (true) {
            $day !== null => sprintf('%04d-%02d-%02d', $year, $month, $day),
            $month !== null => sprintf('%04d-%02d', $year, $month),
            default => sprintf('%04d', $year),
        };
    }
}
