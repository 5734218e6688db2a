<?php

declare(strict_types=1);

namespace App\Design;

use Brenvic\Core\Design\DesignChange;

/** Changes of the design are in force. It is told within the transaction that published them. */
final readonly class DesignPublished
{
    /** @param  list<DesignChange>  $changes */
    public function __construct(public array $changes)
    {
    }
}
