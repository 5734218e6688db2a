<?php

declare(strict_types=1);

namespace App\Find;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Search\Values\Group;

/** One level of a view: what a search found, divided by a field. */
final readonly class FoundGroups
{
    /**
     * @param  list<Group>  $groups
     * @param  FieldDefinition|null  $total  the field that each group sums up
     */
    public function __construct(public array $groups, public ?FieldDefinition $total)
    {
    }
}
