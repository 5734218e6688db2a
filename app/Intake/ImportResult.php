<?php

declare(strict_types=1);

namespace App\Intake;

use Brenvic\Core\Capture\FileKind;

/** What became of one file of an import. */
final readonly class ImportResult
{
    /** @param  'imported'|'without text'|'known'|'refused'|'row without file'|'file without row'  $outcome */
    public function __construct(
        public string $name,
        public string $outcome,
        public string $note = '',
        public ?string $ref = null,
        public ?FileKind $kind = null,
    ) {
    }
}
