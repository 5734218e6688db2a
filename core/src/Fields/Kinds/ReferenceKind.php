<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

/** The reference of a document or dossier, with its check character. */
final class ReferenceKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('reference', 'Reference');
    }

    public function widget(): string
    {
        return 'reference';
    }

    public function hint(): string
    {
        return 'a reference like D-00042-X';
    }

    public function options(): array
    {
        return ['refers_to'];
    }

    public function isExact(): bool
    {
        return true;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return $this->checked(strtoupper($this->short($field, $text)));
    }

    /** As it was given: a wrong one finds nothing, which says more than a refusal. */
    public function asked(FieldDefinition $field, string $value, Calendar $calendar): string
    {
        return strtoupper($value);
    }
}
