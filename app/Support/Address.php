<?php

declare(strict_types=1);

namespace App\Support;

use RuntimeException;

/** The address by which people reach Brenvic: a setting (BRENVIC_URL), and on the machine itself where it listens. */
final class Address
{
    private const LOOPBACK = ['localhost', '127.0.0.1', '[::1]', '::1'];

    /** The whole address of a place here, as it is given to people outside. */
    public static function of(string $path): string
    {
        return self::base().'/'.ltrim($path, '/');
    }

    public static function isKnown(string $host): bool
    {
        $set = strtolower((string) parse_url((string) config('brenvic.url'), PHP_URL_HOST));

        return in_array(strtolower($host), [...self::LOOPBACK, ...array_filter([$set])], true);
    }

    private static function base(): string
    {
        $set = rtrim((string) config('brenvic.url'), '/');
        if ($set !== '') {
            return $set;
        }
        // Without a setting Brenvic is on this machine only: the request came by a loopback address (KnownHost).
        $root = request()->root();

        return self::isKnown((string) parse_url($root, PHP_URL_HOST))
            ? $root
            : throw new RuntimeException('Set BRENVIC_URL to the address that people use.');
    }
}
