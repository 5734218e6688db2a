<?php

declare(strict_types=1);

namespace App\Find;

/** The sentence of a document's first hit, and where it stands. */
final readonly class FirstHit
{
    /**
     * @param  list<array{string, bool}>  $pieces  text, and whether it is what was looked for
     * @param  int|null  $page  none when it is in a comment
     * @param  int|null  $version  when it is not the present one
     */
    public function __construct(
        public array $pieces,
        public ?int $page = null,
        public ?int $version = null,
    ) {
    }
}
