<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\DocumentSet;

/**
 * Pages of a sorted set. The first key narrows a large set to the groups that hold the page; what is left is sorted by
 * all keys. Documents equal in every key stand newest first, so that the order is the same on every page.
 */
final class Sorter
{
    private const FEW = 500;

    /**
     * @param  list<Ordering>  $orderings
     * @return list<int>
     */
    public static function page(DocumentSet $set, array $orderings, int $offset, int $limit): array
    {
        if ($orderings === []) {
            return $set->newest($offset, $limit);
        }
        if ($set->count() > self::FEW) {
            [$set, $before] = $orderings[0]->around($set, $offset, $limit);
            $offset -= $before;
            if ($set->count() > self::FEW + $limit) {
                return self::groupByGroup($set, $orderings, $offset, $limit);
            }
        }

        return array_slice(self::sorted($set->documents(), $orderings), $offset, $limit);
    }

    /**
     * A page in a set with large groups of equals: each group is paged by the keys that remain.
     *
     * @param  list<Ordering>  $orderings
     * @return list<int>
     */
    private static function groupByGroup(DocumentSet $set, array $orderings, int $offset, int $limit): array
    {
        $rest = array_slice($orderings, 1);
        $page = [];
        while ($limit > count($page) && ! $set->isEmpty()) {
            [$group, $before] = $orderings[0]->around($set, $offset, 1);
            $more = self::page($group, $rest, $offset - $before, $limit - count($page));
            if ($more === []) {
                break;
            }
            $page = [...$page, ...$more];
            $offset += count($more);
        }

        return $page;
    }

    /**
     * @param  list<int>  $documents
     * @param  list<Ordering>  $orderings
     * @return list<int>
     */
    private static function sorted(array $documents, array $orderings): array
    {
        $keys = array_map(static fn (Ordering $ordering): array => $ordering->keys($documents), $orderings);
        usort($documents, static function (int $a, int $b) use ($keys, $orderings): int {
            foreach ($keys as $i => $of) {
                $present = isset($of[$b]) <=> isset($of[$a]);
                if ($present !== 0) {
                    return $present;
                }
                $left = $of[$a] ?? 0;
                $right = $of[$b] ?? 0;
                // Not <=> for texts: it takes “0100” and “100” for the same number.
                $order = is_string($left) && is_string($right) ? strcmp($left, $right) : $left <=> $right;
                if ($order !== 0) {
                    return $orderings[$i]->descending() ? -$order : $order;
                }
            }

            return $b <=> $a;
        });

        return $documents;
    }
}
