<?php

declare(strict_types=1);

namespace App\Support;

/** Whether a host is open to everybody, so that nobody has this server ask what only this server can reach. */
final class OpenNetwork
{
    /** That whoever runs Brenvic allows what is inside. */
    public static function isAllInside(): bool
    {
        return (bool) config('brenvic.private_networks');
    }

    /**
     * What cURL is told, so that it connects to the address that was looked at: a second look-up could say another.
     *
     * @return array<int, list<string>>|null null where an address that the host has is of this machine or of a private network
     */
    public static function pinned(string $address): ?array
    {
        if (self::isAllInside()) {
            return [];
        }
        $host = strtolower((string) parse_url($address, PHP_URL_HOST));
        $plain = trim($host, '[]');
        $found =
            filter_var($plain, FILTER_VALIDATE_IP) !== false
                ? [$plain]
                : [...gethostbynamel($plain) ?: [], ...array_column(@dns_get_record($plain, DNS_AAAA) ?: [], 'ipv6')];
        foreach ($found as $at) {
            $mapped = preg_match('/^::ffff:(\d+\.\d+\.\d+\.\d+)$/i', $at, $m) === 1 ? $m[1] : $at;
            if (filter_var($mapped, FILTER_VALIDATE_IP, FILTER_FLAG_NO_PRIV_RANGE | FILTER_FLAG_NO_RES_RANGE) === false) {
                return null;
            }
        }
        $port = parse_url($address, PHP_URL_PORT) ?? (str_starts_with(strtolower($address), 'https:') ? 443 : 80);

        // A host that is not known is left to the connection, which says so.
        return $found === [] ? [] : [CURLOPT_RESOLVE => ["{$host}:{$port}:{$found[0]}"]];
    }
}
