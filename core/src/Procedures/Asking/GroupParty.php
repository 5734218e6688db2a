<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** Whoever is in a group; one of them takes it. */
final readonly class GroupParty extends Party
{
    public function find(Facts $facts): Audience
    {
        return $facts->hasMembers($this->value) ? new Audience([$this->value]) : new Audience();
    }

    public function missing(): string
    {
        return "nobody is in the group “{$this->value}”";
    }

    public function groups(): array
    {
        return [$this->value];
    }
}
