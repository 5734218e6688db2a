<?php

declare(strict_types=1);

namespace App\Retrieve;

/** A file as it leaves. */
final readonly class OutgoingFile
{
    public function __construct(
        public string $path,
        public string $name,
        public string $sha256,
        /** Why it is not in the form that was asked for; empty when it is. */
        public string $remark = '',
    ) {
    }
}
