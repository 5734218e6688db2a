<?php

declare(strict_types=1);

namespace App\Find;

/**
 * Where a program that takes all that is found, piece by piece, goes on. The order is by number, the newest first: what arrives, changes
 * or goes meanwhile makes nothing come twice, and nothing that stays be left out.
 */
final class Cursor
{
    public const START = 'start';

    /** Above every number. */
    public const BEGINNING = PHP_INT_MAX >> 1;

    /** @return int|null the number that all that comes is below; null for what was never given out */
    public static function read(string $cursor): ?int
    {
        if ($cursor === self::START) {
            return self::BEGINNING;
        }
        $said = (string) base64_decode(strtr($cursor, '-_', '+/'), true);

        return preg_match('/^below:(\d{1,15})$/', $said, $m) === 1 ? (int) $m[1] : null;
    }

    /** @param  list<int>  $documents  of a piece, as they were given */
    public static function behind(array $documents, int $limit): ?string
    {
        return $documents === [] || count($documents) < $limit
            ? null
            : rtrim(strtr(base64_encode('below:'.$documents[count($documents) - 1]), '+/', '-_'), '=');
    }
}
