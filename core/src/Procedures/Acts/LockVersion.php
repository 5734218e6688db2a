<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

/** Neither the file nor the values of the document are changed from now on, except by the procedure. */
final readonly class LockVersion extends Act
{
    public static function read(array $content): self
    {
        return new self;
    }
}
