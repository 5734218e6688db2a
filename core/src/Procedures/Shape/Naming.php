<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Shape;

/** What names other parts of a design, which have to be there. Most names none. */
abstract readonly class Naming
{
    /** @return list<string> groups that it names */
    public function groups(): array
    {
        return [];
    }

    /** @return list<string> codes of fields that it names, those of dossiers too */
    public function fields(): array
    {
        return [];
    }

    /** @return list<string> codes of other procedures that it begins */
    public function procedures(): array
    {
        return [];
    }

    /** @return list<string> codes of dossier kinds that it makes dossiers of */
    public function dossierKinds(): array
    {
        return [];
    }
}
