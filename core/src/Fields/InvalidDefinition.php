<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

use RuntimeException;

/** A field definition that cannot work. `$property` names the part at fault (`code`, `pattern`, `maximum` …). */
final class InvalidDefinition extends RuntimeException
{
    public function __construct(public readonly string $property, string $message)
    {
        parent::__construct($message);
    }
}
