<?php

declare(strict_types=1);

namespace App\Versions;

use Illuminate\Http\UploadedFile;

/** The pages that somebody wants a document to have, in their order. */
final readonly class PagesWanted
{
    /**
     * @param  list<array{source: string, page: int, turn: int}>  $pages  sources are references of documents, `file-N` of what
     *                                                                   came along, or empty for the document itself
     * @param  list<UploadedFile>  $uploads  what came along
     */
    public function __construct(public array $pages, public array $uploads = [])
    {
    }
}
