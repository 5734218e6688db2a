<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

/** Where a value stands, seen from words that are printed beside it. */
enum Direction: string
{
    case Behind = 'behind';
    case Right = 'right';
    case Below = 'below';

    public function words(): string
    {
        return match ($this) {
            self::Behind => 'behind it in the text',
            self::Right => 'to the right of it on the page',
            self::Below => 'below it on the page',
        };
    }
}
