<?php

declare(strict_types=1);

namespace App\Reading;

use Brenvic\Core\Reading\Found;

/** A document on which a rule was tried. */
final readonly class TriedDocument
{
    /**
     * @param  list<string>  $given  what people gave, as it is shown
     * @param  list<array{Found, list<array{string, bool}>}>  $found  some places, each with the words around it
     */
    public function __construct(public string $ref, public string $title, public array $given, public array $found)
    {
    }
}
