<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** The relations of the CQL context set 1.2. */
final class Relations
{
    public const ALL = ['=', '==', 'exact', '<>', '<', '<=', '>', '>=', 'any', 'all', 'adj', 'within', 'encloses', 'scr'];

    /** The prefix of the context set they belong to, which a relation or a modifier may bear. */
    private const PREFIX = 'cql.';

    public static function isKnown(string $relation): bool
    {
        return in_array(self::plain($relation), self::ALL, true);
    }

    /** The name of a relation or modifier without the prefix of their own context set. */
    public static function plain(string $name): string
    {
        return str_starts_with($name, self::PREFIX) ? substr($name, strlen(self::PREFIX)) : $name;
    }

    /**
     * The name of a relation or modifier without a prefix that the query assigned to the set they belong to.
     *
     * @param  array<string, string>  $prefixes  prefix => context set
     */
    public static function unprefixed(string $name, array $prefixes): string
    {
        [$prefix, $rest] = [...explode('.', $name, 2), ''];

        return $rest !== '' && ($prefixes[$prefix] ?? '') === 'cql' ? $rest : $name;
    }
}
