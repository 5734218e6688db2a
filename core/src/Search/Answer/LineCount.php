<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Search\Words\Variants;

/** What one criterion costs: documents that fit it alone, that are left after it, and that there would be without it. */
final readonly class LineCount
{
    /**
     * @param  list<Variants>  $variants  what its words were widened to, or may have meant
     * @param  list<PartCount>  $parts  what it is made of, where it is a group
     */
    public function __construct(
        public int $alone,
        public int $running,
        public int $without,
        public array $variants = [],
        public array $parts = [],
    ) {
    }
}
