<?php

declare(strict_types=1);

namespace App\Reading;

/**
 * A type or a dossier that is proposed, since documents that are like this one have it.
 *
 * @template T
 */
final readonly class ProposedAs
{
    /**
     * @param  T  $of
     * @param  string  $code  by which its record is kept
     * @param  non-empty-list<int>  $from  documents
     * @param  array{int, int}  $record  how often such a proposal was kept, and how often it was made
     */
    public function __construct(public mixed $of, public string $code, public array $from, public array $record)
    {
    }
}
