<?php

declare(strict_types=1);

namespace App\Import;

use Brenvic\Core\Capture\FileKind;

/** What became of one file of an import. */
final readonly class ImportResult
{
    /**
     * @param  int|null  $document  that the file is now, or was before
     * @param  int|null  $lock  of the document, as it is now
     * @param  array<string, mixed>|null  $before  what a document that was there was, when its row changed it
     * @param  'imported'|'without text'|'known'|'changed'|'refused'|'row without file'|'file without row'  $outcome
     */
    public function __construct(
        public string $name,
        public string $outcome,
        public string $note = '',
        public ?string $ref = null,
        public ?FileKind $kind = null,
        public ?int $document = null,
        public ?int $lock = null,
        public ?array $before = null,
    ) {
    }
}
