<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** How rows are gathered into the dossiers of a kind. */
final readonly class DossierRows
{
    /**
     * @param  string  $kind  code of the dossier kind
     * @param  string  $key  code of the field whose values each make a dossier
     * @param  list<string>  $shared  codes of what the dossier has and hands down
     */
    public function __construct(public string $kind, public string $key, public array $shared)
    {
    }
}
