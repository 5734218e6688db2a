<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * Numbers as people write them, read into plain decimals (“-1204.5”). A point or comma with other than three digits behind
 * it parts the decimals; spaces, apostrophes, points and commas part thousands where all groups have three digits. The
 * point before three digits is a decimal point, as in data; a single comma there may be either, and is refused unless only
 * one of the readings can be.
 */
final readonly class NumberText
{
    private const SPACES = ["\u{00A0}", "\u{2009}", "\u{202F}", "\u{2007}", "\t"];

    private const APOSTROPHES = ["\u{2019}", '`'];

    private const MINUS = ["\u{2212}", "\u{2013}"];

    /**
     * @param  int  $decimals  how many the number may have at most
     *
     * @throws InvalidValue saying what was not understood, or both readings of what is in doubt
     */
    public static function read(string $text, int $decimals, string $example = '1250 or 0.75'): string
    {
        $plain = trim(str_replace(self::MINUS, '-', str_replace(self::APOSTROPHES, "'", str_replace(self::SPACES, ' ', $text))));
        if (preg_match('/^([-+]?) ?((?:\d[\d .,\']*)?\d|[.,]\d+|\d+[.,])$/', $plain, $m) !== 1) {
            throw self::notUnderstood($text, $example);
        }
        $number = self::reading($text, $m[2], $decimals) ?? throw self::notUnderstood($text, $example);
        if (self::placesOf($number) > $decimals) {
            throw new InvalidValue("“{$text}” has more than {$decimals} decimals.");
        }

        return $m[1] === '-' && trim($number, '0.') !== '' ? "-{$number}" : $number;
    }

    /** @return string|null null when it is no number */
    private static function reading(string $text, string $digits, int $decimals): ?string
    {
        $asPoint = self::withPoint($digits, '.');
        $asComma = self::withPoint($digits, ',');
        if ($asPoint === null || $asComma === null || $asPoint === $asComma) {
            return $asPoint ?? $asComma;
        }
        // One point or comma before the last three digits.
        if (str_contains($digits, '.')) {
            return $decimals >= 3
                ? $asPoint
                : throw new InvalidValue("“{$text}” has more than {$decimals} decimals. If thousands are meant, write {$asComma}.");
        }

        return $decimals < 3
            ? $asPoint
            : throw new InvalidValue("“{$text}” can be read as {$asPoint} or as {$asComma}. Write one of these.");
    }

    /** The number if `$point` parts its decimals; null if it cannot be read so. */
    private static function withPoint(string $text, string $point): ?string
    {
        if (substr_count($text, $point) > 1) {
            $point = '';
        }
        [$whole, $decimals] = $point === '' ? [$text, ''] : [...explode($point, $text, 2), ''];
        if (preg_match('/^\d*$/', $decimals) !== 1) {
            return null;
        }
        if (preg_match('/^\d*$/', $whole) !== 1) {
            // Thousands: one sign between all groups of three, and none before a leading zero.
            if (preg_match('/^[1-9]\d{0,2}(?:([ .,\'])\d{3})(?:\1\d{3})*$/', $whole, $m) !== 1 || $m[1] === $point) {
                return null;
            }
            $whole = str_replace($m[1], '', $whole);
        }
        $decimals = rtrim($decimals, '0');
        $whole = ltrim($whole, '0');

        return ($whole === '' ? '0' : $whole).($decimals === '' ? '' : ".{$decimals}");
    }

    private static function placesOf(string $number): int
    {
        $point = strpos($number, '.');

        return $point === false ? 0 : strlen($number) - $point - 1;
    }

    private static function notUnderstood(string $text, string $example): InvalidValue
    {
        return new InvalidValue("“{$text}” is not a number. Write it like {$example}.");
    }
}
