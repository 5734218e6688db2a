<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;

/** A cell of a spreadsheet that is more than text: what is shown, and what the spreadsheet computes with. */
final readonly class SheetCell
{
    /** @param  'float'|'date'|'string'  $type  as OpenDocument has it (office:value-type) */
    private function __construct(
        public string $shown,
        public string $type,
        public string $value,
    ) {
    }

    public static function number(int|float $number): self
    {
        return new self((string) $number, 'float', (string) $number);
    }

    /** @param  string  $day  as 2026-11-29 */
    public static function day(string $day): self
    {
        return new self($day, 'date', $day);
    }

    /**
     * A cell with the values of a field. A number is a number and a whole date a date; several values, and dates known only
     * to a month or a year, are text.
     *
     * @param  string  $shown  as people see it
     * @param  list<string>  $normals  normal forms
     */
    public static function of(?FieldDefinition $field, string $shown, array $normals): self
    {
        $normal = count($normals) === 1 ? $normals[0] : '';

        return match (true) {
            $field === null || Cover::hides($field) || $normal === '' => new self($shown, 'string', $shown),
            $field->kind->isNumber() && is_numeric($normal) => new self($shown, 'float', $normal),
            $field->kind->isDate() && preg_match('/^\d{4}-\d{2}-\d{2}$/D', $normal) === 1 => new self($shown, 'date', $normal),
            default => new self($shown, 'string', $shown),
        };
    }
}
