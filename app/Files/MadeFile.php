<?php

declare(strict_types=1);

namespace App\Files;

/** A file that was made of a document, or why it could not be. */
final readonly class MadeFile
{
    public function __construct(public ?string $path, public string $name, public string $fault = '')
    {
    }
}
