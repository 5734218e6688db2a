<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** Those whom a person field of the document names. */
final readonly class FieldParty extends Party
{
    public function find(Facts $facts): Audience
    {
        return new Audience([], $facts->inField($this->value));
    }

    public function missing(): string
    {
        return 'its field names nobody who can act';
    }

    public function fields(): array
    {
        return [$this->value];
    }
}
