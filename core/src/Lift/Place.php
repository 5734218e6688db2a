<?php

declare(strict_types=1);

namespace Brenvic\Core\Lift;

/** Where a text says something that a field could have. */
final readonly class Place
{
    /**
     * @param  int  $offset  in bytes of the text
     * @param  int  $length  likewise
     * @param  string  $value  in the field’s normal form
     */
    public function __construct(public int $offset, public int $length, public string $value)
    {
    }
}
