<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

/** An index that can be asked for. */
final readonly class ServedIndex
{
    /** @param  string  $set  short name of the context set */
    public function __construct(
        public string $title,
        public string $set,
        public string $name,
        public bool $isScanned = true,
        public bool $isSorted = false,
    ) {
    }
}
