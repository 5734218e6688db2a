<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

/** The document may be changed again. */
final readonly class ReleaseVersion extends Act
{
    public static function read(array $content): self
    {
        return new self;
    }
}
