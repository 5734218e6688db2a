<?php

declare(strict_types=1);

namespace App\History;

/** One entry of the history, by its number and its hash. */
final readonly class Entry
{
    public function __construct(public int $id, public string $hash)
    {
    }
}
