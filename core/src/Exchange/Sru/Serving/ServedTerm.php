<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

/** A term of an index, with the documents that have it. */
final readonly class ServedTerm
{
    /**
     * @param  string  $value  as it is searched for
     * @param  string  $shown  as people read it
     * @param  string|null  $where  `first`, `last`, `only` or `inner` in the whole list; null where that is not known
     */
    public function __construct(public string $value, public string $shown, public int $documents, public ?string $where = null)
    {
    }
}
