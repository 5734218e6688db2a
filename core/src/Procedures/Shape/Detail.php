<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Shape;

/** Reads what a record or a design has of something, where it may be of any shape. */
final class Detail
{
    /** @param  array<array-key, mixed>  $detail */
    public static function text(array $detail, string $name): string
    {
        return is_scalar($detail[$name] ?? null) ? (string) $detail[$name] : '';
    }

    /** @param  array<array-key, mixed>  $detail */
    public static function number(array $detail, string $name): ?int
    {
        return is_numeric($detail[$name] ?? null) ? (int) $detail[$name] : null;
    }

    /**
     * @param  array<array-key, mixed>  $detail
     * @return list<string>
     */
    public static function texts(array $detail, string $name): array
    {
        return array_values(array_filter(self::list($detail, $name), is_string(...)));
    }

    /**
     * @param  array<array-key, mixed>  $detail
     * @return list<int>
     */
    public static function numbers(array $detail, string $name): array
    {
        return array_values(array_map(intval(...), array_filter(self::list($detail, $name), is_numeric(...))));
    }

    /**
     * @param  array<array-key, mixed>  $detail
     * @return list<array<array-key, mixed>>
     */
    public static function each(array $detail, string $name): array
    {
        return array_values(array_filter(self::list($detail, $name), is_array(...)));
    }

    /**
     * @param  array<array-key, mixed>  $detail
     * @return array<array-key, mixed>
     */
    private static function list(array $detail, string $name): array
    {
        return is_array($detail[$name] ?? null) ? $detail[$name] : [];
    }
}
