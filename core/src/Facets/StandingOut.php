<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/**
 * A value more frequent in a result than in the whole. How sure that is: the log-likelihood ratio G² of the two-by-two
 * table (T. Dunning, “Accurate methods for the statistics of surprise and coincidence”, Computational Linguistics 19,
 * 1993). How much: the plain ratio of the two shares.
 */
final readonly class StandingOut
{
    /** Fewer documents say nothing. */
    private const LEAST = 3;

    /** The value of χ² with one degree of freedom that chance exceeds once in a thousand times. */
    private const SURE = 10.83;

    private function __construct(
        public float $ratio,
        public float $likelihood,
        public int $all,
    ) {
    }

    /**
     * @param  int  $count  documents of the result with the value
     * @param  int  $result  documents of the result
     * @param  int  $all  documents of the whole with the value
     * @param  int  $whole  documents of the whole, which holds the result
     */
    public static function of(int $count, int $result, int $all, int $whole): ?self
    {
        if ($count < self::LEAST || $result === 0 || $all === 0 || $result >= $whole) {
            return null;
        }
        $ratio = ($count / $result) / ($all / $whole);
        $likelihood = self::likelihood($count, $result, $all, $whole);

        return $ratio > 1 && $likelihood >= self::SURE ? new self($ratio, $likelihood, $all) : null;
    }

    public static function likelihood(int $count, int $result, int $all, int $whole): float
    {
        $table = [
            [$count, $result, $all], [$result - $count, $result, $whole - $all],
            [$all - $count, $whole - $result, $all], [$whole - $all - $result + $count, $whole - $result, $whole - $all],
        ];
        $sum = 0.0;
        foreach ($table as [$observed, $row, $column]) {
            if ($observed > 0) {
                $sum += $observed * log($observed * $whole / ($row * $column));
            }
        }

        return 2 * $sum;
    }
}
