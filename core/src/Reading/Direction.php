<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

/** Where a value stands, seen from words that are printed beside it. */
enum Direction: string
{
    case Behind = 'behind';
    case Right = 'right';
    case Below = 'below';
}
