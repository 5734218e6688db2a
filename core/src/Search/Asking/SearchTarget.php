<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\Part;

/** What the name of an index stands for: parts that hold words, fields, or (Dublin Core) both. */
final readonly class SearchTarget
{
    /**
     * @param  list<Part>  $parts
     * @param  list<FieldDefinition>  $fields
     */
    public function __construct(
        public array $parts,
        public array $fields = [],
    ) {
    }
}
