<?php

declare(strict_types=1);

namespace App\Remote;

use RuntimeException;

/** A repository elsewhere did not answer as it should; the message says how. */
final class RemoteFault extends RuntimeException
{
    public function __construct(string $message, public readonly RemoteState $state = RemoteState::Unreachable)
    {
        parent::__construct($message);
    }
}
