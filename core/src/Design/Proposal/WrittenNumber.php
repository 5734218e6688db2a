<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** Numbers of a column that parts its decimals by one sign throughout, with a unit or a currency before or behind. */
final class WrittenNumber
{
    /** Signs of currencies (ISO 4217). */
    public const CURRENCIES = ['£' => 'GBP', '€' => 'EUR', '$' => 'USD', '¥' => 'JPY', '₹' => 'INR', 'kr' => 'NOK', 'zł' => 'PLN'];

    private const FORM = '/^(?<before>[£€$¥₹]|[A-Z]{3})?\s*(?<sign>[-+−–(]?)\s*(?<before2>[£€$¥₹]?)'.
        '(?<digits>\d[\d .,\'’\x{A0}\x{2009}\x{202F}]*|[.,]\d+)\)?\s*'.
        '(?<behind>[\p{L}µ£€$¥₹%°][\p{L}\d²³\/%°]{0,7})?$/u';

    /**
     * A number apart from what stands around it.
     *
     * @return array{digits: string, negative: bool, sign: string}|null `sign` is the unit or currency; null when it is no number
     */
    public static function parts(string $text): ?array
    {
        if (strpbrk($text, '0123456789') === false || preg_match(self::FORM, $text, $m) !== 1) {
            return null;
        }
        $around = array_values(array_filter([$m['before'], $m['before2'], $m['behind'] ?? ''], static fn (string $s): bool => $s !== ''));
        if (count($around) > 1) {
            return null;
        }
        $digits = rtrim((string) preg_replace('/[\x{A0}\x{2009}\x{202F}’]/u', ' ', $m['digits']));

        return ['digits' => $digits, 'negative' => ! in_array($m['sign'], ['', '+'], true), 'sign' => $around[0] ?? ''];
    }

    /** What the digits tell of the sign that parts decimals: `.` or `,`; null when they tell nothing. */
    public static function decimalSign(string $digits): ?string
    {
        $point = strrpos($digits, '.');
        $comma = strrpos($digits, ',');
        if ($point !== false && $comma !== false) {
            return $point > $comma ? '.' : ',';
        }
        $at = $point === false ? $comma : $point;
        if ($at === false) {
            return null;
        }
        $sign = $digits[$at];
        if (substr_count($digits, $sign) > 1) {
            return $sign === '.' ? ',' : '.';
        }

        // Before three digits it may part thousands.
        return strlen($digits) - $at - 1 === 3 && $at > 0 && $at < 4 ? null : $sign;
    }

    /**
     * @param  non-empty-string  $decimalSign
     * @return string|null the plain decimal, without leading zeros; null when it cannot be read so
     */
    public static function plain(string $digits, string $decimalSign): ?string
    {
        $group = $decimalSign === '.' ? ',' : '.';
        [$whole, $decimals] = [...explode($decimalSign, $digits, 2), ''];
        if (preg_match('/^\d*$/D', $decimals) !== 1 || ($whole === '' && $decimals === '')) {
            return null;
        }
        if (preg_match('/\D/', $whole) === 1) {
            if (preg_match("/^\d{1,3}(?:[ '\\{$group}]\d{3})+$/D", $whole) !== 1) {
                return null;
            }
            $whole = (string) preg_replace('/\D/', '', $whole);
        }
        $whole = ltrim($whole, '0') ?: '0';

        return rtrim($decimals, '0') === '' ? $whole : "{$whole}.".rtrim($decimals, '0');
    }
}
