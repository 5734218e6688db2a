<?php

declare(strict_types=1);

namespace Brenvic\Core\SignIn;

/** Time-based one-time passwords (RFC 6238: HMAC-SHA-1, 30 seconds, six digits), as programs on telephones make them. */
final class OneTimePassword
{
    private const SECONDS = 30;

    private const DIGITS = 6;

    /** Steps before and after now that are taken too, for clocks that differ (RFC 6238, 5.2). */
    private const WINDOW = 1;

    private const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';

    /** @return string a new secret of 160 bits, in base 32 (RFC 4648), as it is typed or put into a QR code */
    public static function secret(): string
    {
        return self::base32(random_bytes(20));
    }

    /**
     * Whether a code is good.
     *
     * @param  string  $secret  in base 32
     * @param  int  $time  seconds since 1970
     * @param  int  $after  the step of the last code that was taken: none is good twice (RFC 6238, 5.2)
     * @return int|null its step, to be kept
     */
    public static function step(string $secret, string $code, int $time, int $after = -1): ?int
    {
        $code = (string) preg_replace('/\s+/', '', $code);
        $now = intdiv($time, self::SECONDS);
        $good = null;
        for ($step = max(0, $now - self::WINDOW); $step <= $now + self::WINDOW; $step++) {
            // All are made whatever was given, in the same time.
            if (hash_equals(self::at($secret, $step), $code) && $step > $after) {
                $good = $step;
            }
        }

        return $good;
    }

    /** The code of a step (RFC 4226, 5.3). */
    public static function at(string $secret, int $step): string
    {
        $hash = hash_hmac('sha1', pack('J', $step), self::bytes($secret), true);
        $offset = ord($hash[19]) & 0xF;
        /** @var array{1: int} $number */
        $number = unpack('N', substr($hash, $offset, 4));

        return str_pad((string) (($number[1] & 0x7FFFFFFF) % 10 ** self::DIGITS), self::DIGITS, '0', STR_PAD_LEFT);
    }

    /** What is in the QR code that such programs read. */
    public static function address(string $secret, string $issuer, string $account): string
    {
        $label = rawurlencode($issuer).':'.rawurlencode($account);

        return "otpauth://totp/{$label}?".http_build_query(['secret' => $secret, 'issuer' => $issuer], '', '&', PHP_QUERY_RFC3986);
    }

    private static function base32(string $bytes): string
    {
        $text = '';
        foreach (str_split(implode('', array_map(static fn (string $byte): string => sprintf('%08b', ord($byte)), str_split($bytes))), 5) as $five) {
            $text .= self::ALPHABET[(int) bindec(str_pad($five, 5, '0'))];
        }

        return $text;
    }

    private static function bytes(string $base32): string
    {
        $bits = '';
        foreach (str_split(strtoupper($base32)) as $sign) {
            $bits .= sprintf('%05b', (int) strpos(self::ALPHABET, $sign));
        }

        return implode('', array_map(
            static fn (string $eight): string => strlen($eight) === 8 ? chr((int) bindec($eight)) : '',
            str_split($bits, 8),
        ));
    }
}
