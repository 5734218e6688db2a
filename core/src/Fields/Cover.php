<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * The one place that decides what is shown of fields whose values are sensitive: nothing, until somebody who may see them
 * has had them uncovered, which is recorded. Everything that shows, sends, counts or offers values asks here.
 */
final class Cover
{
    /** What stands in the place of a covered value. */
    public const SIGN = '•••••';

    /** Whether the values of a field stand covered. A field that there is none of has nothing to cover. */
    public static function hides(?FieldDefinition $field): bool
    {
        return $field?->sensitive === true;
    }

    /**
     * Values as people read them, or the cover.
     *
     * @param  array<string>  $normals
     * @param  \Closure(string): string|null  $display  how one is written, if not as its field writes it
     */
    public static function text(FieldDefinition $field, array $normals, string $between = ', ', ?\Closure $display = null): string
    {
        if ($normals === []) {
            return '';
        }

        return self::hides($field) ? self::SIGN : implode($between, array_map($display ?? $field->display(...), $normals));
    }

    /**
     * Values, each covered if they are to be.
     *
     * @param  list<string>  $normals
     * @return list<string>
     */
    public static function each(FieldDefinition $field, array $normals): array
    {
        return self::hides($field) ? array_fill(0, count($normals), self::SIGN) : $normals;
    }

    /**
     * @template TKey of array-key
     *
     * @param  array<TKey, FieldDefinition>  $fields
     * @return array<TKey, FieldDefinition> those whose values anybody is shown
     */
    public static function open(array $fields): array
    {
        return array_filter($fields, static fn (FieldDefinition $field): bool => ! self::hides($field));
    }

    /**
     * @template TKey of array-key
     *
     * @param  array<TKey, FieldDefinition>  $fields
     * @return array<TKey, FieldDefinition>
     */
    public static function hidden(array $fields): array
    {
        return array_filter($fields, self::hides(...));
    }
}
