<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

/** The words that were met while criteria were evaluated: how they rank, and what they were widened to. */
final readonly class WordsMet
{
    /**
     * @param  list<RankedTerm>  $ranked  those that were wanted
     * @param  list<RankedNearness>  $nearness
     * @param  list<Variants>  $variants  what words were widened to, or may have meant
     */
    public function __construct(
        public array $ranked = [],
        public array $nearness = [],
        public array $variants = [],
    ) {
    }
}
