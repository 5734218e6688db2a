<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** The relations of the CQL context set 1.2. */
final class Relations
{
    public const ALL = ['=', '==', 'exact', '<>', '<', '<=', '>', '>=', 'any', 'all', 'adj', 'within', 'encloses', 'scr'];

    public static function isKnown(string $relation): bool
    {
        return in_array($relation, self::ALL, true);
    }
}
