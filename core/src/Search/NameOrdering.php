<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\DocumentSet;

/** By title, reference or file name. */
final readonly class NameOrdering implements Ordering
{
    public function __construct(
        private DocumentNames $names,
        private string $name,
        private bool $descending,
    ) {
    }

    public function keys(array $documents): array
    {
        return $this->names->keys($this->name, $documents);
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        $rank = 0;
        $page = [];
        $groupStart = 0;
        foreach ($this->names->walk($this->name, $this->descending) as $documents) {
            foreach ($documents as $document) {
                if (! $set->has($document)) {
                    continue;
                }
                if ($rank < $offset) {
                    $groupStart = $rank + 1;
                } else {
                    $page[] = $document;
                }
                if (++$rank >= $offset + $limit) {
                    break 2;
                }
            }
        }

        return [DocumentSet::of($page), $groupStart];
    }

    public function descending(): bool
    {
        return $this->descending;
    }
}
