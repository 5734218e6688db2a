<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * How long something takes or lasts: months and seconds, as XML Schema 1.1 part 2 (3.3.6) has durations, since a month has no
 * fixed number of days. Read from ISO 8601 (`P1Y6M`, `PT2H30M`) and as people write it (`2 h 30 min`, `3 days`, `1:30`).
 */
final readonly class Duration
{
    private const DAY = 86_400;

    /** The mean month of the Gregorian calendar in seconds: 365.2425 days, divided by twelve. */
    private const MONTH = 2_629_746;

    /** @var array<string, array{int, int}> months and seconds of each unit */
    private const UNITS = [
        'y' => [12, 0], 'yr' => [12, 0], 'yrs' => [12, 0], 'year' => [12, 0], 'years' => [12, 0],
        'mo' => [1, 0], 'month' => [1, 0], 'months' => [1, 0],
        'w' => [0, 7 * self::DAY], 'week' => [0, 7 * self::DAY], 'weeks' => [0, 7 * self::DAY],
        'd' => [0, self::DAY], 'day' => [0, self::DAY], 'days' => [0, self::DAY],
        'h' => [0, 3600], 'hr' => [0, 3600], 'hrs' => [0, 3600], 'hour' => [0, 3600], 'hours' => [0, 3600],
        'min' => [0, 60], 'mins' => [0, 60], 'minute' => [0, 60], 'minutes' => [0, 60],
        's' => [0, 1], 'sec' => [0, 1], 'secs' => [0, 1], 'second' => [0, 1], 'seconds' => [0, 1],
    ];

    private function __construct(public int $months, public int $seconds)
    {
    }

    /** @throws InvalidValue */
    public static function parse(string $text): self
    {
        $plain = mb_strtolower(trim($text));
        $found = match (true) {
            str_starts_with($plain, 'p') => self::ofIso(strtoupper($plain)),
            preg_match('/^(\d{1,4}):([0-5]\d)(?::([0-5]\d))?$/D', $plain, $m) === 1 => new self(0, (int) $m[1] * 3600 + (int) $m[2] * 60 + (int) ($m[3] ?? 0)),
            default => self::ofWords($plain),
        };
        if ($found === null) {
            throw new InvalidValue("“{$text}” is no duration. Write 2 h 30 min, 3 days or 1 year 6 months.");
        }
        if ($found->months > 120_000 || $found->seconds > 10_000 * 366 * self::DAY) {
            throw new InvalidValue("“{$text}” is longer than ten thousand years.");
        }

        return $found;
    }

    private static function ofIso(string $text): ?self
    {
        $part = static fn (string $sign): string => "(?:(\\d{1,9}){$sign})?";
        $time = "T(?=.){$part('H')}{$part('M')}{$part('S')}";
        $pattern = "/^P(?=.)(?:(\\d{1,9})W|{$part('Y')}{$part('M')}{$part('D')}(?:{$time})?)$/D";
        if (preg_match($pattern, $text, $m) !== 1) {
            return null;
        }
        [, $weeks, $years, $months, $days, $hours, $minutes, $seconds] = array_map(intval(...), $m + array_fill(0, 8, '0'));

        return new self($years * 12 + $months, ($weeks * 7 + $days) * self::DAY + $hours * 3600 + $minutes * 60 + $seconds);
    }

    private static function ofWords(string $text): ?self
    {
        $number = '\d{1,9}(?:[.,]\d{1,3})?';
        if (preg_match("/^(?:{$number}\s*[a-z]+(?:\s*(?:,|and)?\s*|$))+$/Du", $text) !== 1) {
            return null;
        }
        $months = $seconds = 0.0;
        preg_match_all("/({$number})\s*([a-z]+)/u", (string) preg_replace('/\band\b/', ' ', $text), $parts, PREG_SET_ORDER);
        foreach ($parts as [, $count, $unit]) {
            if (! isset(self::UNITS[$unit])) {
                return null;
            }
            $count = (float) strtr($count, ',', '.');
            $months += $count * self::UNITS[$unit][0];
            $seconds += $count * self::UNITS[$unit][1];
        }

        // Half a year is six months; half a month is no number of days.
        return $parts !== [] && fmod($months, 1.0) === 0.0 ? new self((int) $months, (int) round($seconds)) : null;
    }

    /** ISO 8601 in the canonical form of XML Schema: no part larger than the next one takes, none that is zero. */
    public function iso(): string
    {
        [$years, $months, $days, $hours, $minutes, $seconds] = $this->parts();
        $part = static fn (int $count, string $sign): string => $count === 0 ? '' : $count.$sign;
        $date = $part($years, 'Y').$part($months, 'M').$part($days, 'D');
        $time = $part($hours, 'H').$part($minutes, 'M').$part($seconds, 'S');

        return $date.$time === '' ? 'PT0S' : 'P'.$date.($time === '' ? '' : "T{$time}");
    }

    public function display(): string
    {
        [$years, $months, $days, $hours, $minutes, $seconds] = $this->parts();
        $words = static fn (int $count, string $one): string => $count === 0 ? '' : "{$count} {$one}".($count === 1 ? '' : 's');
        $short = static fn (int $count, string $unit): string => $count === 0 ? '' : "{$count} {$unit}";
        $shown = array_filter(
            [
                $words($years, 'year'),
                $words($months, 'month'),
                $words($days, 'day'),
                $short($hours, 'h'),
                $short($minutes, 'min'),
                $short($seconds, 's'),
            ],
            static fn (string $part): bool => $part !== '',
        );

        return $shown === [] ? '0 min' : implode(' ', $shown);
    }

    /** How long it is, with months of their mean length. */
    public function length(): int
    {
        return $this->months * self::MONTH + $this->seconds;
    }

    public static function ofLength(int $seconds): self
    {
        return new self(0, max(0, $seconds));
    }

    /** @return array{int, int, int, int, int, int} years, months, days, hours, minutes, seconds */
    private function parts(): array
    {
        $rest = $this->seconds % self::DAY;

        return [
            intdiv($this->months, 12),
            $this->months % 12,
            intdiv($this->seconds, self::DAY),
            intdiv($rest, 3600),
            intdiv($rest % 3600, 60),
            $rest % 60,
        ];
    }
}
