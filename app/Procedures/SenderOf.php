<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Files\FileStore;
use App\Models\Document;
use Brenvic\Core\Capture\FileKind;
use ZBateson\MailMimeParser\Header\AddressHeader;
use ZBateson\MailMimeParser\Message;

/** Who sent the mail by which a document arrived: the document itself, or the one that it was attached to. */
final readonly class SenderOf
{
    public function __construct(private FileStore $files)
    {
    }

    /** @return string|null an address; null where it did not arrive by mail */
    public function of(Document $document): ?string
    {
        $of = $document;
        while ($of !== null && FileKind::tryFrom($of->file_kind) !== FileKind::Mail) {
            $of = $of->parent_id === null ? null : Document::query()->find($of->parent_id);
        }
        if ($of === null) {
            return null;
        }
        $stream = fopen($this->files->path($of->sha256), 'rb');
        if ($stream === false) {
            return null;
        }
        $message = Message::from($stream, true);
        foreach (['Reply-To', 'From'] as $name) {
            $header = $message->getHeader($name);
            $address = $header instanceof AddressHeader ? $header->getEmail() : null;
            if ($address !== null && $address !== '') {
                return $address;
            }
        }

        return null;
    }
}
