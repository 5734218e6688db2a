<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;

/** Makes a dossier with the values that the document has in the fields of its kind, and puts the document into it. */
final readonly class MakeDossier extends Act
{
    /** @param  string  $kind  code of the dossier kind */
    public function __construct(public string $kind)
    {
    }

    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'dossier_kind'));
    }

    public function fault(): ?string
    {
        return $this->kind === '' ? 'Say what kind of dossier is made.' : null;
    }

    public function dossierKinds(): array
    {
        return [$this->kind];
    }
}
