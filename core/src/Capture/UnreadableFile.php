<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

use RuntimeException;

/** A file without text to be had. It is kept all the same; `$reason` is a short code, the message says what happened. */
final class UnreadableFile extends RuntimeException
{
    /** @param  'empty'|'damaged'|'encrypted'|'too_large'|'unknown'|'failed'  $reason */
    public function __construct(public readonly string $reason, string $message)
    {
        parent::__construct($message);
    }
}
