<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

/** The indexed words that a search word was widened to, or, when it is not indexed, those that may have been meant. */
final readonly class Variants
{
    /**
     * @param  list<array{word: string, count: int, on: bool}>  $words  with the documents of each that the asker may see
     * @param  bool  $suggested  the words are only suggestions: the search found nothing by them
     * @param  int  $all  how many there are; those named are the most frequent
     */
    public function __construct(
        public string $of,
        public array $words,
        public bool $suggested,
        public int $all,
    ) {
    }
}
