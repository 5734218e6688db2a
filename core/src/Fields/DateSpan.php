<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

use DateTimeImmutable;

/**
 * A stretch of days as people name it: a partial date (the whole of it), an ISO 8601 interval `2019-03/2019-06`, or
 * words: `today`, `yesterday`, `tomorrow`; `this`, `last` or `next` with `week`, `month`, `quarter`, `year` or `fiscal
 * year`; `last 30 days` (weeks, months, years; up to today); `fiscal year 2023` (the one that begins in 2023).
 */
final readonly class DateSpan
{
    /**
     * @param  int  $first  day (see PartialDate)
     * @param  int  $last  day
     */
    public function __construct(
        public int $first,
        public int $last,
    ) {
    }

    /** @throws InvalidValue */
    public static function parse(string $text, Calendar $calendar): self
    {
        $words = (string) preg_replace('/\s+/', ' ', mb_strtolower(trim($text)));
        $span = self::ofWords($words, $calendar);
        if ($span !== null) {
            return $span;
        }
        if (preg_match('#^(\d{4}(?:-\d{2}){0,2})/(\d{4}(?:-\d{2}){0,2})$#', $words, $m) === 1) {
            return self::between(PartialDate::parse($m[1]), PartialDate::parse($m[2]));
        }
        $date = PartialDate::parse($text);

        return new self($date->firstDay(), $date->lastDay());
    }

    /**
     * A range: one stretch, or two with a space between them.
     *
     * @throws InvalidValue
     */
    public static function parseRange(string $text, Calendar $calendar): self
    {
        try {
            return self::parse($text, $calendar);
        } catch (InvalidValue $fault) {
            $words = preg_split('/\s+/', trim($text)) ?: [];
            for ($i = 1; $i < count($words); $i++) {
                try {
                    $first = self::parse(implode(' ', array_slice($words, 0, $i)), $calendar);

                    return new self($first->first, self::parse(implode(' ', array_slice($words, $i)), $calendar)->last);
                } catch (InvalidValue) {
                    continue;
                }
            }
            throw $fault;
        }
    }

    private static function between(PartialDate $first, PartialDate $last): self
    {
        return new self($first->firstDay(), $last->lastDay());
    }

    private static function ofWords(string $words, Calendar $calendar): ?self
    {
        $today = $calendar->today;
        if ($words === 'today' || $words === 'yesterday' || $words === 'tomorrow') {
            return self::from($today->modify($words), $today->modify($words));
        }
        if (preg_match('/^fiscal year (\d{4})$/', $words, $m) === 1) {
            $start = $today->setDate((int) $m[1], $calendar->fiscalYearStart, 1);

            return self::from($start, $start->modify('+1 year -1 day'));
        }
        if (preg_match('/^last (\d{1,4}) (day|week|month|year)s?$/', $words, $m) === 1) {
            return self::from($today->modify("-{$m[1]} {$m[2]} +1 day"), $today);
        }
        if (preg_match('/^(this|last|next) (week|month|quarter|year|fiscal year)$/', $words, $m) !== 1) {
            return null;
        }
        [$start, $length] = self::present($m[2], $calendar);
        $start = match ($m[1]) {
            'last' => $start->modify("-{$length}"),
            'next' => $start->modify("+{$length}"),
            default => $start,
        };

        return self::from($start, $start->modify("+{$length} -1 day"));
    }

    /** @return array{DateTimeImmutable, string} the first day of the present week, month … and how long one is */
    private static function present(string $unit, Calendar $calendar): array
    {
        $today = $calendar->today;
        $month = (int) $today->format('n');
        $year = (int) $today->format('Y');

        return match ($unit) {
            'week' => [$today->modify('monday this week'), '7 days'],
            'month' => [$today->setDate($year, $month, 1), '1 month'],
            'quarter' => [$today->setDate($year, $month - ($month - 1) % 3, 1), '3 months'],
            'year' => [$today->setDate($year, 1, 1), '1 year'],
            default => [$today->setDate($month < $calendar->fiscalYearStart ? $year - 1 : $year, $calendar->fiscalYearStart, 1), '1 year'],
        };
    }

    private static function from(DateTimeImmutable $first, DateTimeImmutable $last): self
    {
        $day = static fn (DateTimeImmutable $of): int => PartialDate::parse($of->format('Y-m-d'))->firstDay();

        return new self($day($first), $day($last));
    }
}
