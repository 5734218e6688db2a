<?php

declare(strict_types=1);

namespace Brenvic\Core\Lift;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;

/** Words of a page as the value of a field. */
final class Lift
{
    /**
     * @param  string  $text  the words that somebody pointed at
     * @return string in the field’s normal form
     *
     * @throws InvalidValue when the field cannot have it
     */
    public static function value(FieldDefinition $field, string $text): string
    {
        $plain = trim((string) preg_replace('/\s+/u', ' ', $text), " \t\n\r.,;:");
        try {
            return $field->parse($plain) ?? throw new InvalidValue('There are no words at that place.');
        } catch (InvalidValue $fault) {
            // More words than are meant, or the value in another form than people type.
            $place = Places::of($field, $text, 1)[0] ?? null;

            return $place === null ? self::number($field, $plain) ?? throw $fault : $place->value;
        }
    }

    /** @throws InvalidValue */
    private static function number(FieldDefinition $field, string $text): ?string
    {
        $isNumber = in_array($field->kind->value, ['number', 'amount'], true);
        $plain = $isNumber ? Places::plain($text) : null;

        return $plain === null ? null : $field->parse($plain);
    }
}
