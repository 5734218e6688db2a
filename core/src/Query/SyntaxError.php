<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

use RuntimeException;

/** A query that cannot be read. `$position` is the offset in bytes at which reading stopped. */
final class SyntaxError extends RuntimeException
{
    public function __construct(
        string $message,
        public readonly int $position,
        public readonly ?string $suggestion = null,
    ) {
        parent::__construct($message);
    }
}
