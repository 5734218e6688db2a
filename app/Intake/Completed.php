<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Document;
use App\Models\DocumentType;

/** A waiting document with a sheet that was checked, ready to be filed. */
final readonly class Completed
{
    /** @param  array<string, list<string>>  $values  normal forms by field code */
    public function __construct(
        public Document $document,
        public DocumentType $type,
        public array $values,
        public ?string $name = null,
    ) {
    }
}
