<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** Where documents of the proposed types are filed: a library that is there, or a new one. */
final readonly class ProposedLibrary
{
    /**
     * @param  string|null  $code  of a library that is there; null for a new one
     * @param  string  $name  of the new one
     * @param  list<string>  $groups  who enters the new one, and changes what is there
     */
    public function __construct(public ?string $code, public string $name = '', public array $groups = [])
    {
    }
}
