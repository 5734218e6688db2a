<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Fields\ReservedNames;
use Normalizer;

/** Codes of parts made of what they are called: small letters, digits and `_`, and none that is taken. */
final class PartCode
{
    /** @param  array<array-key, mixed>  $taken  by code */
    public static function of(string $name, array $taken, string $otherwise = 'part'): string
    {
        $apart = Normalizer::normalize($name, Normalizer::FORM_KD);
        $plain = (string) preg_replace('/\p{M}+/u', '', is_string($apart) ? $apart : $name);
        $code = trim((string) preg_replace(['/[^a-z0-9]+/', '/^[_0-9]+/'], ['_', ''], mb_strtolower($plain)), '_');
        $code = substr($code, 0, 36) ?: $otherwise;
        $free = $code;
        for ($number = 2; isset($taken[$free]) || in_array($free, ReservedNames::ALL, true); $number++) {
            $free = "{$code}_{$number}";
        }

        return $free;
    }
}
