<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** One entry of a vocabulary. `$parent` is the code of the term above it, or null at the top. */
final readonly class VocabularyTerm
{
    /** @param  list<string>  $synonyms  other names that it is found and filled in by */
    public function __construct(
        public string $code,
        public string $label,
        public ?string $parent = null,
        public array $synonyms = [],
    ) {
    }
}
