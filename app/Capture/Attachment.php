<?php

declare(strict_types=1);

namespace App\Capture;

/** A file that came inside a mail. */
final readonly class Attachment
{
    public function __construct(
        public string $name,
        public string $contents,
    ) {
    }
}
