<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

use RuntimeException;

/** A value its field does not take. The message is a sentence for the person who typed it, and says what to do. */
final class InvalidValue extends RuntimeException
{
}
