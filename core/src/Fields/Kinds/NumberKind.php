<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\NumberText;

/** A number, with the unit of its field. The normal form is a plain decimal. */
class NumberKind extends FieldKind
{
    /** The index keeps as many. */
    private const DECIMALS = 4;

    public function __construct(string $value = 'number', string $label = 'Number')
    {
        parent::__construct($value, $label);
    }

    public function widget(): string
    {
        return 'number';
    }

    public function options(): array
    {
        return ['unit', 'bounds', 'default'];
    }

    public function isOrdered(): bool
    {
        return true;
    }

    public function isNumber(): bool
    {
        return true;
    }

    public function hasSum(): bool
    {
        return true;
    }

    public function hasRanges(): bool
    {
        return true;
    }

    public function hasWords(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        $plain = $text;
        if ($field->unit !== '' && str_ends_with(mb_strtolower($plain), mb_strtolower($field->unit))) {
            $plain = mb_substr($plain, 0, -mb_strlen($field->unit));
        }

        return $this->bounds(
            $field,
            $text,
            NumberText::read($plain, self::DECIMALS, '1250 or 0.75'.($field->unit === '' ? '' : ", in {$field->unit}")),
        );
    }

    /** @throws InvalidValue */
    protected function bounds(FieldDefinition $field, string $text, string $number): string
    {
        if (abs((float) $number) > 1e12) {
            throw new InvalidValue("“{$text}” is larger than a number field can hold.");
        }
        if ($field->minimum !== null && (float) $number < $field->minimum) {
            throw new InvalidValue("{$field->label} is at least {$field->minimum}; “{$text}” is below it.");
        }
        if ($field->maximum !== null && (float) $number > $field->maximum) {
            throw new InvalidValue("{$field->label} is at most {$field->maximum}; “{$text}” is above it.");
        }

        return $number;
    }

    public function display(FieldDefinition $field, string $normal): string
    {
        return $field->form->numbers->write($normal).($field->unit === '' ? '' : "\u{00A0}{$field->unit}");
    }

    public function displayRange(FieldDefinition $field, string $from, string $to): string
    {
        return $from === $to ? $field->display($from) : "{$field->form->numbers->write($from)} to {$field->display($to)}";
    }

    public function formats(): array
    {
        return ['whole' => 'whole numbers'];
    }

    public function formatted(FieldDefinition $field, string $normal, string $format): string
    {
        return $field->display($format === 'whole' ? (string) round((float) $normal) : $normal);
    }

    public function datatype(): string
    {
        return 'decimal';
    }

    public function counted(FieldDefinition $field, string $normal): array
    {
        return [];
    }

    public function ordinal(FieldDefinition $field, string $normal): int
    {
        return FieldDefinition::numberOrdinal((float) $normal);
    }
}
