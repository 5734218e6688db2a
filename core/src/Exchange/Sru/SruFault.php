<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use RuntimeException;

/** An answer that is none, or is not what the standard says; the message is for people. */
final class SruFault extends RuntimeException
{
}
