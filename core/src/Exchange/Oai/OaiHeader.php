<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Oai;

/** The head of a record: who it is, when it changed last, which sets it is in. */
final readonly class OaiHeader
{
    /** @param  list<string>  $sets  none for one that is deleted, of which nothing else is told */
    public function __construct(public string $identifier, public string $stamp, public array $sets, public bool $isDeleted = false)
    {
    }
}
