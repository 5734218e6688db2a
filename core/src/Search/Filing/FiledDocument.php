<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Filing;

use Brenvic\Core\Retention\Keeping;

/** A filed document with all that it is found by, as whoever keeps the documents knows it. */
final readonly class FiledDocument
{
    /**
     * @param  int  $number  1 or more
     * @param  string  $text  all of it, pages joined
     * @param  string|null  $redacted  the text without what was removed from it; null when nothing was
     * @param  string  $library  code, as those of the repository and the type
     * @param  string|null  $filedOn  a day, as 2025-03-01
     * @param  list<array{string, string, string}>  $dossiers  references, titles and kinds of those it is in
     * @param  list<string>  $comments
     * @param  list<string>  $earlier  the texts of earlier versions, the oldest first
     * @param  string|null  $language  of the text, as TextLanguage has them; null where it is not known
     * @param  list<Standing>  $standings  in all procedures that it has been in
     * @param  bool  $isTitledByFile  whether nothing but the name of its file made its title
     * @param  float|null  $ocrConfidence  how sure OCR is of its words, in per cent; null for what it did not read
     * @param  Keeping|null  $keeping  how long it is kept; null where nobody asks
     * @param  array<string, list<string>>  $values  normal forms by field code, those handed down by dossiers too
     */
    public function __construct(
        public int $number,
        public string $title,
        public string $text = '',
        public string $library = '',
        public array $values = [],
        public string $fileName = '',
        public string $ref = '',
        public string $path = '',
        public ?string $redacted = null,
        public string $repository = '',
        public ?string $type = null,
        public string $typeName = '',
        public string $fileKind = '',
        public string $textState = '',
        public bool $isAttached = false,
        public int $pages = 0,
        public ?string $creator = null,
        public ?string $filedOn = null,
        public array $dossiers = [],
        public array $comments = [],
        public array $earlier = [],
        public ?string $language = null,
        public array $standings = [],
        public ?Keeping $keeping = null,
        public bool $isTitledByFile = false,
        public ?float $ocrConfidence = null,
    ) {
    }
}
