<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * The escapes of a CQL term. A backslash takes `*`, `?`, `^` and itself literally; before any other sign it says nothing
 * and falls away, and at the very end it stands for itself. So each term has one form, in which it is kept and printed.
 */
final class Escapes
{
    /** What means something without a backslash before it. */
    private const SIGNS = '*?^\\';

    /** The term with the escapes that say something, and no others. */
    public static function canonical(string $term): string
    {
        if (! str_contains($term, '\\')) {
            return $term;
        }
        $canonical = '';
        $at = 0;
        $end = strlen($term);
        while ($at < $end) {
            $plain = strcspn($term, '\\', $at);
            $canonical .= substr($term, $at, $plain);
            $at += $plain;
            if ($at < $end) {
                $escaped = $term[$at + 1] ?? '\\';
                // Of a sign of several bytes only the first is taken here; the rest follows as plain text.
                $canonical .= (str_contains(self::SIGNS, $escaped) ? '\\' : '').$escaped;
                $at += 2;
            }
        }

        return $canonical;
    }
}
