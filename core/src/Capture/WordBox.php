<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** A word on a page: where it stands in the page's text (bytes) and on the page (units of the page, from top left). */
final readonly class WordBox
{
    public function __construct(
        public int $offset,
        public int $length,
        public float $left,
        public float $top,
        public float $right,
        public float $bottom,
    ) {
    }
}
