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
     * @param  string|null  $exchange  of a mail: what all mails of its exchange have alike
     */
    public function __construct(
        public array $pages,
        public array $attachments = [],
        public string $note = '',
        public ?string $exchange = null,
    ) {
    }
}
