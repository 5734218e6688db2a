<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

/** From today on the document is kept as long as its rule says. */
final readonly class StartRetention extends Act
{
    public static function read(array $content): self
    {
        return new self;
    }
}
