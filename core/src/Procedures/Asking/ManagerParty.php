<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** The manager of who filed the document, or of those whom a person field names. */
final readonly class ManagerParty extends Party
{
    /** Stands for who filed it, instead of a field. */
    public const FILER = 'filer';

    public function find(Facts $facts): Audience
    {
        $filer = $facts->filer();
        $filers = $filer === null ? [] : [$filer];

        return new Audience([], $facts->managers($this->value === self::FILER ? $filers : $facts->inField($this->value)));
    }

    public function missing(): string
    {
        return $this->value === self::FILER ? 'who filed it has no manager' : 'those whom its field names have no manager';
    }

    public function fields(): array
    {
        return $this->value === self::FILER ? [] : [$this->value];
    }
}
