<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

/** What a reading rule found: a value, and where it stands. */
final readonly class Found
{
    /**
     * @param  int  $page  from 1
     * @param  int  $offset  in bytes of the page’s text
     * @param  int  $length  likewise
     * @param  string  $value  in the field’s normal form
     */
    public function __construct(public int $page, public int $offset, public int $length, public string $value)
    {
    }
}
