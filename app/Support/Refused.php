<?php

declare(strict_types=1);

namespace App\Support;

use RuntimeException;

/** An act that cannot be done as things are. The message says why and what to do. */
final class Refused extends RuntimeException
{
}
