<?php

declare(strict_types=1);

namespace Brenvic\Core\Templates;

use Brenvic\Core\Xml\InvalidXml;
use Brenvic\Core\Xml\UntrustedXml;
use DOMElement;
use DOMXPath;

/**
 * A part of a word-processing document (ISO/IEC 29500-1, WordprocessingML): its text, its tables, a header or a footer. Besides
 * placeholders, content controls (17.5.2) are set whose tag or title is the code of a field.
 */
final class WordTemplate
{
    private const NAMESPACES = [
        'http://schemas.openxmlformats.org/wordprocessingml/2006/main',
        'http://purl.oclc.org/ooxml/wordprocessingml/main',
    ];

    /** Parts of the package that are filled. */
    public static function isPart(string $name): bool
    {
        return preg_match('#^word/(document|header\d*|footer\d*|footnotes|endnotes)\.xml$#', $name) === 1;
    }

    /** @throws InvalidXml */
    public static function filled(string $xml, Placeholders $values): string
    {
        $root = UntrustedXml::root($xml);
        $document = $root->ownerDocument;
        if ($document === null) {
            return $xml;
        }
        $path = new DOMXPath($document);
        $space = in_array($root->namespaceURI, self::NAMESPACES, true) ? (string) $root->namespaceURI : self::NAMESPACES[0];
        $path->registerNamespace('w', $space);
        foreach (Placeholders::found($path, '//w:sdt') as $control) {
            $control instanceof DOMElement && self::control($path, $control, $values, $space);
        }
        foreach (Placeholders::found($path, '//w:p') as $paragraph) {
            // Of a paragraph within a text box only its own words.
            $depth = Placeholders::depth($path, 'ancestor-or-self::w:p', $paragraph);
            $values->inPieces(Placeholders::found($path, ".//w:t[count(ancestor::w:p) = {$depth}]", $paragraph));
        }

        return (string) $document->saveXML();
    }

    private static function control(DOMXPath $path, DOMElement $control, Placeholders $values, string $space): void
    {
        foreach (['w:tag', 'w:alias'] as $by) {
            $named = $path->evaluate("string(w:sdtPr/{$by}/@w:val)", $control);
            $value = is_string($named) ? $values->values[$named] ?? null : null;
            if ($value === null) {
                continue;
            }
            $texts = Placeholders::found($path, 'w:sdtContent//w:t', $control);
            foreach ($texts as $i => $text) {
                $text->textContent = $i === 0 ? $value : '';
            }
            // It is no hint any more, and is not written as one.
            foreach (Placeholders::found($path, 'w:sdtPr/w:showingPlcHdr', $control) as $hint) {
                $hint->parentNode?->removeChild($hint);
            }
            $first = $texts[0] ?? null;
            if ($first instanceof DOMElement) {
                $first->setAttributeNS('http://www.w3.org/XML/1998/namespace', 'xml:space', 'preserve');
            }

            return;
        }
    }
}
