<?php

declare(strict_types=1);

namespace App\Reading;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Reading\Found;

/** Values that are proposed for a field of a document, with where they stand. */
final readonly class Proposal
{
    /**
     * @param  string  $by  the name of the rule
     * @param  non-empty-list<array{Found, list<array{string, bool}>}>  $places  each value with its place and the words around it
     */
    public function __construct(public FieldDefinition $field, public string $by, public array $places)
    {
    }
}
