<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\DocumentType;
use App\Models\Library;
use App\Models\User;

/** Where an import goes, and whose it is. */
final readonly class ImportInto
{
    /**
     * @param  DocumentType|null  $type  where a row names none
     * @param  User|null  $by  null for who sees and may do all
     */
    public function __construct(public Library $library, public ?DocumentType $type = null, public ?User $by = null)
    {
    }
}
