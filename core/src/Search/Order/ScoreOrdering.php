<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\DocumentSet;

/** By relevance, best first, for a set small enough to be scored document by document. */
final readonly class ScoreOrdering implements Ordering
{
    public function __construct(private Ranker $ranker)
    {
    }

    public function keys(array $documents): array
    {
        return $this->ranker->scoresOf($documents);
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        $scores = $this->ranker->scoresOf($set->documents());
        $groups = array_count_values($scores);
        krsort($groups);
        $before = $reached = 0;
        $highest = $lowest = null;
        foreach ($groups as $score => $count) {
            if ($reached + $count <= $offset) {
                $before += $count;
            } else {
                $highest ??= $score;
                $lowest = $score;
            }
            $reached += $count;
            if ($reached >= $offset + $limit) {
                break;
            }
        }

        return [
            DocumentSet::of(
                array_keys(
                    array_filter($scores, static fn (int $score): bool => $highest !== null && $score <= $highest && $score >= $lowest),
                ),
            ),
            $before,
        ];
    }

    public function descending(): bool
    {
        return true;
    }
}
