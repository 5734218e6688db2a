<?php

declare(strict_types=1);

namespace Brenvic\Core\Xml;

use DOMDocument;
use DOMElement;

/** Reads XML that comes from outside. Nothing is fetched, and nothing that declares entities is let in, however it is encoded. */
final class UntrustedXml
{
    /** @throws InvalidXml */
    public static function root(string $xml): DOMElement
    {
        $document = new DOMDocument;
        $before = libxml_use_internal_errors(true);
        $isRead = $xml !== '' && $document->loadXML($xml, LIBXML_NONET | LIBXML_COMPACT);
        libxml_clear_errors();
        libxml_use_internal_errors($before);
        // Entities are not put in while reading, so the declaration may be looked for afterwards.
        if ($document->doctype !== null) {
            throw new InvalidXml(true);
        }

        return $isRead && $document->documentElement !== null ? $document->documentElement : throw new InvalidXml(false);
    }
}
