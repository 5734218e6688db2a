<?php

declare(strict_types=1);

namespace App\Reports;

/** One thing that is not as it should be, with the documents that it is about. */
final readonly class Finding
{
    /**
     * @param  string  $group  what it is told with
     * @param  string  $words  read behind the number of documents
     * @param  string  $cql  finds them
     */
    public function __construct(public string $group, public string $words, public int $documents, public string $cql)
    {
    }

    /** @return array{group: string, words: string, documents: int, cql: string} */
    public function toArray(): array
    {
        return ['group' => $this->group, 'words' => $this->words, 'documents' => $this->documents, 'cql' => $this->cql];
    }
}
