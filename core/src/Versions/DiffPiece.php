<?php

declare(strict_types=1);

namespace Brenvic\Core\Versions;

/** A stretch of text that two versions share, or that only one of them has. */
final readonly class DiffPiece
{
    public function __construct(
        public DiffKind $kind,
        public string $text,
    ) {
    }
}
