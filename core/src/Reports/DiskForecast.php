<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

use DateTimeImmutable;

/** When a disk will be full if it goes on as it did: the line of least squares through what was used on each day. */
final readonly class DiskForecast
{
    /** Fewer days say nothing. */
    public const LEAST = 7;

    /** Beyond so many days nobody plans. */
    private const FARTHEST = 3_650;

    /**
     * @param  float|null  $bytesADay  null where too little is known
     * @param  string|null  $full  the day on which it is full; null where it does not grow, or not soon
     */
    private function __construct(public ?float $bytesADay, public ?string $full)
    {
    }

    /**
     * @param  array<string, int>  $used  bytes by day, as 2026-11-29
     * @param  int  $all  bytes of the disk now
     */
    public static function of(array $used, int $all): self
    {
        ksort($used);
        if (count($used) < self::LEAST) {
            return new self(null, null);
        }
        $first = new DateTimeImmutable((string) array_key_first($used));
        $last = new DateTimeImmutable((string) array_key_last($used));
        $x = array_map(static fn (string $day): int => (int) $first->diff(new DateTimeImmutable($day))->days, array_keys($used));
        $y = array_values($used);
        $meanX = array_sum($x) / count($x);
        $meanY = array_sum($y) / count($y);
        $along = $across = 0.0;
        foreach ($x as $i => $at) {
            $across += ($at - $meanX) * ($y[$i] - $meanY);
            $along += ($at - $meanX) ** 2;
        }
        $slope = $across / $along;
        $left = $slope > 0 ? (int) ceil(max(0, $all - $used[$last->format('Y-m-d')]) / $slope) : PHP_INT_MAX;

        return new self($slope, $left > self::FARTHEST ? null : $last->modify("+{$left} days")->format('Y-m-d'));
    }
}
