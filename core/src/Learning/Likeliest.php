<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

/**
 * Which of some classes a document is likeliest of, by the marks it has in common with documents of each (naive Bayes: M. E. Maron,
 * “Automatic Indexing: An Experimental Inquiry”, Journal of the ACM 8 (1961)). Every class is as likely as another before; a mark that
 * all have says nothing, and one that those of a single class have says much.
 */
final class Likeliest
{
    /** As if so many more documents of each class were seen, which are as all are on average. */
    private const BEFORE = 2.0;

    /**
     * @param  list<int>  $marks  of the document
     * @param  array<int|string, list<list<int>>>  $classes  the marks of documents of each class
     * @return array{string, float}|null the class, and how likely it is, up to 1; null where no mark was seen before
     */
    public static function of(array $marks, array $classes): ?array
    {
        $classes = array_filter($classes);
        ksort($classes, SORT_STRING);
        $all = array_sum(array_map(count(...), $classes));
        $counts = array_map(static fn (array $documents): array => array_count_values(array_merge(...$documents)), $classes);
        $scores = array_fill_keys(array_keys($classes), 0.0);
        $isSeen = false;
        foreach ($marks as $mark) {
            $with = array_sum(array_map(static fn (array $of): int => $of[$mark] ?? 0, $counts));
            $isSeen = $isSeen || $with > 0;
            foreach ($with === 0 ? [] : $classes as $class => $documents) {
                $expected = self::BEFORE * $with / $all;
                $scores[$class] += log((($counts[$class][$mark] ?? 0) + $expected) / (count($documents) + self::BEFORE));
            }
        }
        if (! $isSeen || $scores === []) {
            return null;
        }
        $best = max($scores);
        $likely = (string) array_search($best, $scores, true);

        return [$likely, 1 / array_sum(array_map(static fn (float $of): float => exp($of - $best), $scores))];
    }
}
