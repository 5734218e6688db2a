<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

use DOMDocument;
use DOMElement;
use DOMNode;
use DOMText;

/** The readable text of HTML. */
final class MarkupText
{
    private const BLOCKS = [
        'p',
        'div',
        'li',
        'tr',
        'h1',
        'h2',
        'h3',
        'h4',
        'h5',
        'h6',
        'title',
        'table',
        'section',
        'article',
        'header',
        'footer',
        'blockquote',
        'pre',
        'dt',
        'dd',
        'hr',
        'td',
        'th',
    ];

    private const SILENT = ['script', 'style', 'template', 'noscript', 'iframe', 'object', 'svg'];

    /** @param  string  $html  UTF-8, whatever it declares */
    public static function ofHtml(string $html): string
    {
        // It is decoded already: what it says of its encoding would be followed a second time.
        $html = (string) preg_replace(
            ['/<\?xml[^>]*\?>/', '/(<meta\s[^>]*?charset\s*=\s*["\']?)\s*[\w.:-]+/i'],
            ['', '$1utf-8'],
            mb_scrub($html),
        );
        if (trim($html) === '') {
            return '';
        }
        $document = new DOMDocument();
        $before = libxml_use_internal_errors(true);
        $document->loadHTML('<?xml encoding="UTF-8">'.$html, LIBXML_NONET | LIBXML_COMPACT);
        libxml_clear_errors();
        libxml_use_internal_errors($before);
        $text = '';
        self::collectHtml($document, $text);

        return trim((string) preg_replace(["/[ \t\u{A0}]+/u", "/ ?\n ?/", "/\n{3,}/"], [' ', "\n", "\n\n"], $text));
    }

    private static function collectHtml(DOMNode $node, string &$text): void
    {
        foreach ($node->childNodes as $child) {
            if ($child instanceof DOMText) {
                $text .= (string) preg_replace('/\s+/u', ' ', $child->data);
            } elseif ($child instanceof DOMElement && ! in_array($child->localName, self::SILENT, true)) {
                if ($child->localName === 'br') {
                    // The same paragraph goes on.
                    $text .= "\n";

                    continue;
                }
                $block = in_array($child->localName, self::BLOCKS, true);
                $text .= $block ? "\n" : '';
                self::collectHtml($child, $text);
                $text .= $block ? "\n" : '';
            }
        }
    }
}
