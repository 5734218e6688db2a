<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Feeds;

/** One document in a feed. */
final readonly class FeedEntry
{
    /**
     * @param  string  $id  that stays the same for good, an IRI
     * @param  string  $updated  ISO 8601, in UTC
     * @param  string  $published  the same; empty where it is not known
     * @param  list<string>  $categories
     */
    public function __construct(
        public string $id,
        public string $title,
        public string $address,
        public string $updated,
        public string $published,
        public string $summary,
        public array $categories,
    ) {
    }
}
