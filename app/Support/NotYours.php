<?php

declare(strict_types=1);

namespace App\Support;

use RuntimeException;

/** An act that others may do, but not this person. The message says who keeps it. */
final class NotYours extends RuntimeException
{
}
