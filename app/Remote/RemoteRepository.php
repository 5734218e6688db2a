<?php

declare(strict_types=1);

namespace App\Remote;

/** A repository elsewhere that is asked by SRU. */
final readonly class RemoteRepository
{
    /** @param  string  $address  of its SRU server */
    public function __construct(public string $code, public string $name, public string $address)
    {
    }

    /** Whether an address is on the server that was designed: nothing else is fetched from here. */
    public function serves(string $address): bool
    {
        return self::origin($address) !== null && self::origin($address) === self::origin($this->address);
    }

    /** The mark of an address that a record of this repository named: nobody can have another one fetched. */
    public function seal(string $address): string
    {
        return substr(hash_hmac('sha256', "{$this->code}\n{$address}", (string) config('app.key')), 0, 32);
    }

    private static function origin(string $address): ?string
    {
        $parts = parse_url($address);
        $scheme = strtolower((string) ($parts['scheme'] ?? ''));
        if (
            ! in_array($scheme, ['http', 'https'], true) ||
            ! isset($parts['host']) ||
            isset($parts['user']) ||
            preg_match('/[\s\\\\]/', $address) === 1
        ) {
            return null;
        }

        return $scheme.'://'.strtolower($parts['host']).':'.($parts['port'] ?? ($scheme === 'https' ? 443 : 80));
    }
}
