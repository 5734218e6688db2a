<?php

declare(strict_types=1);

namespace App\Capture;

use Brenvic\Core\Capture\TextPage;

/** What was read from a file. */
final readonly class Extracted
{
    /**
     * @param  list<TextPage>  $pages
     * @param  list<Attachment>  $attachments
     * @param  string  $note  what people are told of how it was read
     * @param  string|null  $exchange  of a mail: what all mails of its exchange have alike
     * @param  string  $title  of a mail its subject; empty where the file has no name of its own within
     * @param  string  $left  what of the file was not read; empty when all was
     * @param  int|null  $drawn  of an office file: how many of the pages were drawn; null when that was not tried
     */
    public function __construct(
        public array $pages,
        public array $attachments = [],
        public string $note = '',
        public ?string $exchange = null,
        public string $title = '',
        public string $left = '',
        public ?int $drawn = null,
    ) {
    }

    public function text(): string
    {
        return implode('', array_map(static fn (TextPage $page): string => $page->text, $this->pages));
    }
}
