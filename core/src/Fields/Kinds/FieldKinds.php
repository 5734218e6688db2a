<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldKind;

/** All kinds of fields, in the order in which they are offered. A new kind is a class of its own, and a line here. */
final class FieldKinds
{
    private const CLASSES = [
        TextKind::class,
        LongTextKind::class,
        ChoiceKind::class,
        NumberKind::class,
        AmountKind::class,
        DateKind::class,
        DateRangeKind::class,
        YesNoKind::class,
        IdentifierKind::class,
        PersonKind::class,
        ReferenceKind::class,
        DurationKind::class,
        WebAddressKind::class,
    ];

    /** @var array<string, FieldKind> */
    private static array $kinds = [];

    /** @return array<string, FieldKind> by code */
    public static function all(): array
    {
        if (self::$kinds === []) {
            foreach (self::CLASSES as $class) {
                $kind = new $class;
                self::$kinds[$kind->value] = $kind;
            }
        }

        return self::$kinds;
    }

    public static function find(string $code): ?FieldKind
    {
        return self::all()[$code] ?? null;
    }
}
