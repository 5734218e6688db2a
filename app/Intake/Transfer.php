<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\DocumentType;
use App\Models\Library;

/** How documents are copied or moved to another library. */
final readonly class Transfer
{
    /**
     * @param  DocumentType|null  $type  the type they get there; null for their own
     * @param  array<string, string>  $mapping  field code => the code that takes its place; empty to leave it behind
     */
    public function __construct(
        public Library $to,
        public ?DocumentType $type,
        public array $mapping,
        public bool $copies,
    ) {
    }
}
