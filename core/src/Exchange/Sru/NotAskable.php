<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use RuntimeException;

/** Something a query asks for that another repository cannot be asked; the message says why. */
final class NotAskable extends RuntimeException
{
}
