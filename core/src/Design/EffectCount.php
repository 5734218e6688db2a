<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** One effect of a change, with how many documents it has it on. */
final readonly class EffectCount
{
    /**
     * @param  string  $what  in words, to be read behind the number of documents
     * @param  string|null  $cql  finds the documents, when a search can
     * @param  list<array{value: string, documents: int, reason: string}>  $examples  the most frequent values at fault
     */
    public function __construct(
        public EffectKind $kind,
        public DesignChange $change,
        public int $documents,
        public string $what,
        public ?string $cql = null,
        public array $examples = [],
    ) {
    }
}
