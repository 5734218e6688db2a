<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures;

use RuntimeException;

/** What somebody wanted to do in a case, and may not, or not any more. The message says why, to people. */
final class NotNow extends RuntimeException
{
}
