<?php

declare(strict_types=1);

namespace App\Remote;

use RuntimeException;

/** A repository elsewhere did not answer as it should; the message says how. */
final class RemoteFault extends RuntimeException
{
    /** @param  bool  $isSlow  it took too long, rather than answering wrongly or not at all */
    public function __construct(string $message, public readonly bool $isSlow = false)
    {
        parent::__construct($message);
    }
}
