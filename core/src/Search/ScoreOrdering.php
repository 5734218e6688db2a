<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

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
        return [$set, 0];
    }

    public function descending(): bool
    {
        return true;
    }
}
