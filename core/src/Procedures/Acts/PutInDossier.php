<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;

/** Puts the document into the dossier that a field names, or that has the same value in a field. */
final readonly class PutInDossier extends Act
{
    /**
     * @param  string  $field  that refers to a dossier, or whose value the dossier has too
     * @param  string  $kind  code of the dossier kind; empty for any
     */
    public function __construct(public string $field, public string $kind = '')
    {
    }

    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'field'), Detail::text($content, 'dossier_kind'));
    }

    public function fault(): ?string
    {
        return $this->field === '' ? 'Say by which field its dossier is found.' : null;
    }

    public function fields(): array
    {
        return [$this->field];
    }

    public function dossierKinds(): array
    {
        return $this->kind === '' ? [] : [$this->kind];
    }
}
