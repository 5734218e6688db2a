<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

/** What something is called by in a register, in capitals; with a check character where the pattern has one. */
final class IdentifierKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('identifier', 'Identifier');
    }

    public function widget(): string
    {
        return 'identifier';
    }

    public function options(): array
    {
        return ['pattern', 'max_length', 'default'];
    }

    public function isExact(): bool
    {
        return true;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        $fitting = $this->fitting($field, strtoupper($this->short($field, $text)));

        return str_ends_with($field->pattern, '?') ? $this->checked($fitting) : $fitting;
    }

    /** As it was given: a wrong one finds nothing, which says more than a refusal. */
    public function asked(FieldDefinition $field, string $value, Calendar $calendar): string
    {
        return strtoupper($value);
    }
}
