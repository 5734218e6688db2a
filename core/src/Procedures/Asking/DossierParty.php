<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** Those who hold a role in the dossiers of the document: whom a person field of these names. */
final readonly class DossierParty extends Party
{
    public function find(Facts $facts): Audience
    {
        return new Audience([], $facts->inDossiers($this->value));
    }

    public function missing(): string
    {
        return 'its dossier names nobody who can act';
    }

    public function fields(): array
    {
        return [$this->value];
    }
}
