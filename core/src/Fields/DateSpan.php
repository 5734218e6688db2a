<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

use DateTimeImmutable;

/**
 * A stretch of days as people name it: a partial date (the whole of it), an ISO 8601 interval `2019-03/2019-06`, or
 * words: `today`, `yesterday`, `tomorrow`; `this`, `last` or `next` with `week`, `month`, `quarter`, `year` or `fiscal
 * year`; `last 30 days` (weeks, months, years; up to today); `fiscal year 2023` (the one that begins in 2023); `week 12 of
 * 2026` (ISO 8601: weeks begin on Mondays, the first has the year's first Thursday); `12 to 18 March 2026`. A year that is not
 * said is the present one.
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

    private const WEEK = '/^(?:(\d{4})-?w(\d{1,2})|week (\d{1,2})(?:,? (?:of )?(\d{4}))?|(\d{4})[ ,]+week (\d{1,2}))$/';

    private const BETWEEN = '/^(?:from |between )?(?<from>.+?)(?: (?:to|until|till|and|[-–—]) | ?[–—] ?|(?<=\d)-(?=\d{1,2} [a-z]))(?<to>.+)$/u';

    private const DAY = '/^(?:(?<day>\d{1,2})(?:st|nd|rd|th|\.)?)?(?: ?(?<month>[a-z]{3,9})\.?)?(?:,? (?<year>\d{4}))?$/';

    /**
     * How it is kept in a query: what is told from today stays as it is and means another time later; the rest is fixed.
     *
     * @throws InvalidValue
     */
    public static function kept(string $text, Calendar $calendar): string
    {
        $words = self::plain($text);
        if (self::relative($words, $calendar) !== null) {
            return $words;
        }
        $week = self::week($words, $calendar);
        if ($week !== null) {
            return sprintf('%04d-W%02d', ...$week);
        }
        $span = self::parse($text, $calendar);

        $first = PartialDate::ofDay($span->first)->iso();

        return $span->first === $span->last ? $first : $first.'/'.PartialDate::ofDay($span->last)->iso();
    }

    /** What `kept` gave, for people: `12 to 18 Mar 2026`, `week 12 of 2026`. */
    public static function display(string $kept, DateForm $form = DateForm::Words): string
    {
        if (preg_match('/^(\d{4})-w(\d{1,2})$/i', $kept, $m) === 1) {
            return 'week '.(int) $m[2]." of {$m[1]}";
        }
        if (preg_match('#^(\d{4}-\d{2}-\d{2})/(\d{4}-\d{2}-\d{2})$#', $kept, $m) !== 1) {
            return $kept;
        }
        [$first, $last] = [PartialDate::parse($m[1]), PartialDate::parse($m[2])];
        $from = $form->write($first);
        if ($form === DateForm::Words && $first->year === $last->year) {
            $from = $first->month === $last->month ? (string) $first->day : substr($from, 0, -5);
        }

        return $m[1] === $m[2] ? $form->write($last) : "{$from} to {$form->write($last)}";
    }

    private static function plain(string $text): string
    {
        return (string) preg_replace('/\s+/u', ' ', mb_strtolower(trim($text)));
    }

    /** @throws InvalidValue */
    public static function parse(string $text, Calendar $calendar): self
    {
        $words = self::plain($text);
        $span = self::relative($words, $calendar) ?? self::ofWeek($words, $calendar);
        if ($span !== null) {
            return $span;
        }
        if (preg_match('#^(\d{4}(?:-\d{2}){0,2})/(\d{4}(?:-\d{2}){0,2})$#', $words, $m) === 1) {
            return self::between(PartialDate::parse($m[1]), PartialDate::parse($m[2]));
        }
        try {
            $date = PartialDate::parse($text);
        } catch (InvalidValue $fault) {
            return self::ofDays($words, $calendar) ?? throw $fault;
        }

        return self::between($date, $date);
    }

    /** @return array{int, int}|null year and week */
    private static function week(string $words, Calendar $calendar): ?array
    {
        if (preg_match(self::WEEK, $words, $m, PREG_UNMATCHED_AS_NULL) !== 1) {
            return null;
        }
        $year = (int) ($m[1] ?? $m[4] ?? $m[5] ?? $calendar->today->format('o'));
        $week = (int) ($m[2] ?? $m[3] ?? $m[6]);
        // The last week of a year is that of its 28th of December.
        $weeks = (int) $calendar->today->setDate($year, 12, 28)->format('W');

        return $week >= 1 && $week <= $weeks
            ? [$year, $week]
            : throw new InvalidValue("{$year} has no week {$week}. Its weeks are 1 to {$weeks}.");
    }

    private static function ofWeek(string $words, Calendar $calendar): ?self
    {
        $week = self::week($words, $calendar);
        if ($week === null) {
            return null;
        }
        $monday = $calendar->today->setISODate(...$week);

        return self::from($monday, $monday->modify('+6 days'));
    }

    /**
     * Days without a year, and stretches whose ends share a month or a year: `12 March`, `12 to 18 March`, `December to
     * February 2024`.
     */
    private static function ofDays(string $words, Calendar $calendar): ?self
    {
        $present = $calendar->today->format('Y');
        if (preg_match(self::BETWEEN, $words, $m) !== 1) {
            $day = self::day($words);

            return $day === null || $day['month'] === '' ? null : self::dated($day, $day['year'] ?: $present);
        }
        $from = self::day($m['from']);
        $to = self::day($m['to']);
        if ($from === null || $to === null || ($to['month'] === '' && $to['day'] !== '')) {
            return null;
        }
        // December to February begins in the year before; 18 to 12 March is a slip.
        $mayBegin = $from['month'] !== '';
        $from['month'] = $from['month'] ?: ($from['day'] === '' ? '' : $to['month']);
        $year = $to['year'] ?: $present;
        $last = self::dated($to, $year);
        $first = self::dated($from, $from['year'] ?: $year);
        if ($first->first > $last->last && $mayBegin && $from['year'] === '') {
            $first = self::dated($from, (string) ((int) $year - 1));
        }

        return $first->first > $last->last
            ? throw new InvalidValue("“{$words}” ends before it begins.")
            : new self($first->first, $last->last);
    }

    /** @return array{day: string, month: string, year: string}|null */
    private static function day(string $words): ?array
    {
        if (preg_match('/^\d{4}$/', $words) === 1) {
            return ['day' => '', 'month' => '', 'year' => $words];
        }
        if ($words === '' || preg_match(self::DAY, $words, $m) !== 1) {
            return null;
        }

        return ['day' => $m['day'] ?? '', 'month' => $m['month'] ?? '', 'year' => $m['year'] ?? ''];
    }

    /** @param  array{day: string, month: string, year: string}  $day */
    private static function dated(array $day, string $year): self
    {
        $date = PartialDate::parse(trim("{$day['day']} {$day['month']} {$year}"));

        return self::between($date, $date);
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

    private static function relative(string $words, Calendar $calendar): ?self
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
