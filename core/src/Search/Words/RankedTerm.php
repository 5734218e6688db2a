<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

/** A word of the search with the dictionary words it was widened to: what ranking adds up. */
final readonly class RankedTerm
{
    /**
     * @param  list<string>  $parts
     * @param  array<int, int>  $words  dictionary number => documents that have it, among those the asker may see
     */
    public function __construct(public array $parts, public array $words)
    {
    }
}
