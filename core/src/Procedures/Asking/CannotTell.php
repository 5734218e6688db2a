<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

use RuntimeException;

/** A criterion that could not be held against a document. The message says why, to people. */
final class CannotTell extends RuntimeException
{
}
