<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** One entry of a vocabulary. `$parent` is the code of the term above it, or null at the top. */
final readonly class VocabularyTerm
{
    public function __construct(
        public string $code,
        public string $label,
        public ?string $parent = null,
    ) {
    }
}
