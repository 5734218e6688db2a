<?php

declare(strict_types=1);

namespace Brenvic\Core\Templates;

use Brenvic\Core\Xml\InvalidXml;
use Brenvic\Core\Xml\UntrustedXml;
use DOMXPath;

/** A part of an OpenDocument text (ISO/IEC 26300-1): its text and tables (content.xml), its headers and footers (styles.xml). */
final class OpenTextTemplate
{
    private const TEXT = 'urn:oasis:names:tc:opendocument:xmlns:text:1.0';

    public static function isPart(string $name): bool
    {
        return $name === 'content.xml' || $name === 'styles.xml';
    }

    /** @throws InvalidXml */
    public static function filled(string $xml, Placeholders $values): string
    {
        $document = UntrustedXml::root($xml)->ownerDocument;
        if ($document === null) {
            return $xml;
        }
        $path = new DOMXPath($document);
        $path->registerNamespace('text', self::TEXT);
        foreach (Placeholders::found($path, '//text:p | //text:h') as $paragraph) {
            $depth = Placeholders::depth($path, 'ancestor-or-self::text:p | ancestor-or-self::text:h', $paragraph);
            $values->inPieces(Placeholders::found($path, ".//text()[count(ancestor::text:p | ancestor::text:h) = {$depth}]", $paragraph));
        }

        return (string) $document->saveXML();
    }
}
