<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\DocumentSet;

/**
 * Pages of a sorted set. The first key narrows a large set to the groups that hold the page; what is left is sorted by
 * all keys. Documents equal in every key stand newest first, so that the order is the same on every page.
 */
final class Sorter
{
    private const FEW = 1_000;

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
        $columns = [];
        foreach ($orderings as $ordering) {
            $keys = $ordering->keys($documents);
            $isText = is_string(current($keys));
            // What has no value goes last, either way. Texts are not compared as numbers: “0100” is not “100”.
            array_push($columns, array_map(static fn (int $document): bool => isset($keys[$document]), $documents), SORT_DESC);
            array_push(
                $columns,
                array_map(static fn (int $document): int|string => $keys[$document] ?? ($isText ? '' : 0), $documents),
                $ordering->descending() ? SORT_DESC : SORT_ASC,
                $isText ? SORT_STRING : SORT_REGULAR,
            );
        }
        $columns[] = &$documents;
        $columns[] = SORT_DESC;
        $equal = array_fill(0, count($documents), 0);
        array_multisort($equal, ...$columns);

        return $documents;
    }
}
