<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * How numbers are written for people. A point between thousands is not among them: before three digits a point is a decimal
 * point, in data and wherever a number is typed.
 */
enum NumberForm: string
{
    case Point = 'point';
    case Comma = 'comma';
    case CommasAndPoint = 'commas_and_point';

    /** `1 234.5` with a thin space, `1 234,5` or `1,234.5`, with the decimals that the normal form has. */
    public function write(string $normal): string
    {
        $dot = strpos($normal, '.');

        return number_format(
            (float) $normal,
            $dot === false ? 0 : strlen($normal) - $dot - 1,
            $this === self::Comma ? ',' : '.',
            $this === self::CommasAndPoint ? ',' : "\u{2009}",
        );
    }
}
