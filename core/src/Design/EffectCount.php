<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Index\DocumentSet;

/** One effect of a change, with how many documents it has it on. */
final readonly class EffectCount
{
    /**
     * @param  string  $what  in words, to be read behind the number of documents
     * @param  string|null  $cql  finds the documents, when a search can
     * @param  list<array{value: string, documents: int, reason: string}>  $examples  the most frequent values at fault
     * @param  DocumentSet|null  $set  the documents themselves, when no search can find them
     */
    public function __construct(
        public EffectKind $kind,
        public DesignChange $change,
        public int $documents,
        public string $what,
        public ?string $cql = null,
        public array $examples = [],
        public ?DocumentSet $set = null,
    ) {
    }

    /** @return array{documents: int, what: string, stops: bool} as a program is told of it */
    public function told(): array
    {
        return ['documents' => $this->documents, 'what' => $this->what, 'stops' => $this->kind->stops()];
    }
}
