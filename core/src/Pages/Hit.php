<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/** A place in a text that a search marks: offset and length in bytes. */
final readonly class Hit
{
    public function __construct(public int $offset, public int $length)
    {
    }
}
