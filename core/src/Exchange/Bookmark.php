<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

/** A bookmark with those below it. */
final class Bookmark
{
    /** @var array<string, Bookmark> */
    public array $below = [];

    /** @param  string  $page  the page object, as in `12 0 R` */
    public function __construct(
        public readonly string $name,
        public readonly string $page,
    ) {
    }
}
