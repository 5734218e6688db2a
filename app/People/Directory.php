<?php

declare(strict_types=1);

namespace App\People;

use App\Support\Refused;
use Illuminate\Support\Facades\Log;

/**
 * The directory of the office (LDAP, RFC 4511), which is asked whether a password is right by binding with it. People are made here and
 * are known by their sign-in names; the directory holds their passwords only.
 */
final class Directory
{
    /** Seconds that it may take. */
    private const SECONDS = 5;

    public static function isSet(): bool
    {
        return (string) config('brenvic.directory.url') !== '';
    }

    /**
     * @throws Refused when the directory cannot be asked
     */
    public static function knows(string $signIn, string $password): bool
    {
        // A bind without a password succeeds as nobody (RFC 4513, 5.1.2), and says nothing about it.
        if ($password === '' || str_contains($signIn.$password, "\0") || ! self::isSet()) {
            return false;
        }
        if (! function_exists('ldap_connect')) {
            throw new Refused('The directory cannot be asked: php8.2-ldap is not installed.');
        }
        $url = (string) config('brenvic.directory.url');
        $connection = @ldap_connect($url);
        if ($connection === false) {
            throw new Refused('The address of the directory is not one.');
        }
        ldap_set_option($connection, LDAP_OPT_PROTOCOL_VERSION, 3);
        ldap_set_option($connection, LDAP_OPT_REFERRALS, 0);
        ldap_set_option($connection, LDAP_OPT_NETWORK_TIMEOUT, self::SECONDS);
        ldap_set_option($connection, LDAP_OPT_TIMELIMIT, self::SECONDS);
        $host = (string) parse_url($url, PHP_URL_HOST);
        $isNear = str_starts_with($url, 'ldaps:') || in_array($host, ['127.0.0.1', 'localhost', '::1'], true);
        // Passwords go over no network in the clear.
        if (! $isNear && ! @ldap_start_tls($connection)) {
            Log::warning('The directory cannot be asked.', ['reason' => ldap_error($connection)]);
            throw new Refused('The directory does not answer. Try again.');
        }
        $name = str_replace('{sign_in}', ldap_escape($signIn, '', LDAP_ESCAPE_DN), (string) config('brenvic.directory.name'));
        $isRight = @ldap_bind($connection, $name, $password);
        $fault = ldap_errno($connection);
        @ldap_unbind($connection);
        // 49: the name or the password is wrong; 32: there is no such name.
        if (! $isRight && ! in_array($fault, [49, 32, 34], true)) {
            Log::warning('The directory cannot be asked.', ['reason' => ldap_err2str($fault)]);
            throw new Refused('The directory does not answer. Try again.');
        }

        return $isRight;
    }
}
