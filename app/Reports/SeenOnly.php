<?php

declare(strict_types=1);

namespace App\Reports;

use Closure;
use Generator;

/**
 * Sums that the database makes, of documents that a person sees only. Either those are asked for that they see, or those that
 * they do not see are taken away from all, whichever are fewer: no sum of a million documents is made one by one.
 */
final class SeenOnly
{
    /** Documents that are asked for at a time. */
    private const PIECE = 5_000;

    /**
     * @template T
     *
     * @param  list<int>  $seen
     * @param  list<int>  $unseen
     * @param  Closure(list<int>|null): iterable<T>  $sums  of some documents, or of all
     * @return Generator<int, array{T, int}> each sum, and the sign that it counts with
     */
    public static function of(array $seen, array $unseen, Closure $sums): Generator
    {
        $isMost = count($seen) > count($unseen);
        foreach ($isMost ? $sums(null) : [] as $sum) {
            yield [$sum, 1];
        }
        foreach (array_chunk($isMost ? $unseen : $seen, self::PIECE) as $ids) {
            foreach ($sums($ids) as $sum) {
                yield [$sum, $isMost ? -1 : 1];
            }
        }
    }
}
