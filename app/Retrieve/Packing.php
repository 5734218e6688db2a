<?php

declare(strict_types=1);

namespace App\Retrieve;

use Brenvic\Core\Fields\FieldDefinition;
use Closure;

/** What is packed into the file of a delivery. */
final readonly class Packing
{
    /**
     * @param  string  $place  the folder in which the delivery is made
     * @param  string  $table  path of the table of index values, whole
     * @param  array<string, FieldDefinition>  $fields  those in the table, by code
     * @param  Closure(): bool  $goesOn  whether nobody has cancelled it
     */
    public function __construct(
        public string $place,
        public string $table,
        public array $fields,
        public Closure $goesOn,
    ) {
    }
}
