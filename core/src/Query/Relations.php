<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** The relations of the CQL context set 1.2. */
final class Relations
{
    public const ALL = ['=', '==', 'exact', '<>', '<', '<=', '>', '>=', 'any', 'all', 'adj', 'within', 'encloses', 'scr'];

    /** The prefix of the context set they belong to, which a relation may bear. */
    private const PREFIX = 'cql.';

    public static function isKnown(string $relation): bool
    {
        return in_array(self::plain($relation), self::ALL, true);
    }

    /** The relation without the prefix of its own context set. */
    public static function plain(string $relation): string
    {
        return str_starts_with($relation, self::PREFIX) ? substr($relation, strlen(self::PREFIX)) : $relation;
    }
}
