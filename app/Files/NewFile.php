<?php

declare(strict_types=1);

namespace App\Files;

/** A file that was taken in, to be a document's from now on. */
final readonly class NewFile
{
    public function __construct(public string $sha256, public int $bytes, public string $name)
    {
    }
}
