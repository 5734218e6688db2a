<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Fields\CheckCharacter;

/**
 * The systems by which the last character of an identifier checks the others: those of ISO/IEC 7064 (pure MOD 11-2, 37-2, 97-10
 * and hybrid MOD 11,10 and 37,36), the modulus 10 of Luhn (ISO/IEC 7812-1), that of article numbers (weights 3 and 1), and the
 * modulus 11 of ISBN-10.
 */
final class CheckDigits
{
    private const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ*';

    /** So many identifiers tell a system from chance. */
    private const FEWEST = 20;

    /** @var array<string, string> method => name */
    private const SYSTEMS = [
        'mod3736' => 'ISO 7064 MOD 37,36',
        'mod112' => 'ISO 7064 MOD 11-2',
        'mod372' => 'ISO 7064 MOD 37-2',
        'mod1110' => 'ISO 7064 MOD 11,10',
        'mod9710' => 'ISO 7064 MOD 97-10',
        'luhn' => 'modulus 10 (Luhn)',
        'article' => 'modulus 10, weights 3 and 1',
        'isbn' => 'modulus 11, weights 10 to 2',
    ];

    /**
     * The system that nearly all of some identifiers keep to.
     *
     * @param  list<string>  $identifiers
     * @return array{name: string, isOurs: bool, share: float}|null `isOurs` when a pattern’s check character is of this system
     */
    public static function systemOf(array $identifiers, float $share = 0.97): ?array
    {
        $plain = array_map(static fn (string $text): string => (string) preg_replace('/[^0-9A-Z*]/', '', strtoupper($text)), $identifiers);
        if (count($plain) < self::FEWEST) {
            return null;
        }
        $best = null;
        foreach (self::SYSTEMS as $method => $name) {
            $held = 0;
            foreach ($plain as $text) {
                $held += strlen($text) > 2 && self::holds($method, $text) ? 1 : 0;
            }
            $found = $held / count($plain);
            if ($found >= $share && $found > ($best['share'] ?? 0.0)) {
                $best = ['name' => $name, 'isOurs' => $method === 'mod3736', 'share' => $found];
            }
        }

        return $best;
    }

    private static function holds(string $method, string $text): bool
    {
        return match ($method) {
            'mod3736' => CheckCharacter::holds($text),
            'mod112' => preg_match('/^\d+[\dX]$/D', $text) === 1 && self::pure(str_replace('X', 'A', $text), 11, 2) === 1,
            'mod372' => self::pure($text, 37, 2) === 1,
            'mod1110' => ctype_digit($text) && self::hybrid($text),
            'mod9710' => preg_match('/\d\d$/D', $text) === 1 && strlen($text) > 4 && self::remainder97($text) === 1,
            'luhn' => ctype_digit($text) && self::weighted(strrev($text), [1, 2], true) % 10 === 0,
            'article' => ctype_digit($text) && self::weighted(strrev($text), [1, 3], false) % 10 === 0,
            default => preg_match('/^\d{9}[\dX]$/D', $text) === 1 && self::isbn($text) % 11 === 0,
        };
    }

    private static function pure(string $text, int $modulus, int $radix): int
    {
        $sum = 0;
        for ($i = 0, $length = strlen($text); $i < $length; $i++) {
            $sum = ($sum * $radix + (int) strpos(self::ALPHABET, $text[$i])) % $modulus;
        }

        return $sum;
    }

    private static function hybrid(string $digits): bool
    {
        $sum = 10;
        $last = strlen($digits) - 1;
        for ($i = 0; $i < $last; $i++) {
            $sum = ($sum + (int) $digits[$i]) % 10 ?: 10;
            $sum = $sum * 2 % 11;
        }

        return ($sum + (int) $digits[$last]) % 10 === 1;
    }

    /** Letters stand for two digits each (A for 10). */
    private static function remainder97(string $text): int
    {
        $sum = 0;
        for ($i = 0, $length = strlen($text); $i < $length; $i++) {
            $value = (int) strpos(self::ALPHABET, $text[$i]);
            $sum = ($sum * ($value > 9 ? 100 : 10) + $value) % 97;
        }

        return $sum;
    }

    /** @param  list<int>  $weights  from the last digit on, in turns */
    private static function weighted(string $reversed, array $weights, bool $ofDigits): int
    {
        $sum = 0;
        for ($i = 0, $length = strlen($reversed); $i < $length; $i++) {
            $product = (int) $reversed[$i] * $weights[$i % count($weights)];
            $sum += $ofDigits && $product > 9 ? $product - 9 : $product;
        }

        return $sum;
    }

    private static function isbn(string $text): int
    {
        $sum = 0;
        for ($i = 0; $i < 10; $i++) {
            $sum += ($text[$i] === 'X' ? 10 : (int) $text[$i]) * (10 - $i);
        }

        return $sum;
    }
}
