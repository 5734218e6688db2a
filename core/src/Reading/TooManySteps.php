<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use RuntimeException;

/** A pattern took more steps for one page than it may. */
final class TooManySteps extends RuntimeException
{
    public function __construct(string $pattern)
    {
        parent::__construct("The pattern “{$pattern}” took too long and was stopped. Make its repeated parts more specific.");
    }
}
