<?php

declare(strict_types=1);

namespace App\Import;

/** What a row of a later register did to a document. */
final readonly class ChangedByRow
{
    /**
     * @param  array<string, mixed>|null  $before  what the document was, and what its row had said
     * @param  int|null  $lock  of the document, as it is now
     */
    public function __construct(public bool $isChanged, public string $note, public ?array $before = null, public ?int $lock = null)
    {
    }
}
