<?php

declare(strict_types=1);

namespace App\Access;

/** Why somebody may not change a document. */
final readonly class Hindrance
{
    public function __construct(
        public HindranceKind $kind,
        public string $words,
    ) {
    }
}
