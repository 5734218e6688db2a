<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

use XMLReader;

/** Reads what `pdftotext -bbox-layout` writes: XHTML with page, block, line and word elements, in points. */
final class PopplerLayout
{
    /** @return iterable<TextPage> */
    public static function pages(string $xhtml): iterable
    {
        $xhtml = (string) preg_replace('/<!DOCTYPE[^>]*>/', '', mb_scrub($xhtml), 1);
        $xhtml = (string) preg_replace('/[\x00-\x08\x0B\x0C\x0E-\x1F]/', ' ', $xhtml);
        $before = libxml_use_internal_errors(true);
        try {
            $reader = self::reader($xhtml);
            $builder = null;
            while ($reader !== null && $reader->read()) {
                $ends = $reader->nodeType === XMLReader::END_ELEMENT;
                switch ($reader->localName) {
                    case 'page':
                        if ($builder !== null) {
                            yield $builder->page();
                        }
                        $builder = $ends
                            ? null
                            : new PageBuilder((float) $reader->getAttribute('width'), (float) $reader->getAttribute('height'));
                        if (! $ends && $reader->isEmptyElement && $builder !== null) {
                            yield $builder->page();
                            $builder = null;
                        }
                        break;
                    case 'word':
                        if (! $ends) {
                            $builder?->word(
                                $reader->readString(),
                                (float) $reader->getAttribute('xMin'),
                                (float) $reader->getAttribute('yMin'),
                                (float) $reader->getAttribute('xMax'),
                                (float) $reader->getAttribute('yMax'),
                            );
                        }
                        break;
                    case 'line':
                        $ends && $builder?->endLine();
                        break;
                    case 'block':
                        $ends && $builder?->endParagraph();
                        break;
                }
            }
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($before);
        }
    }

    private static function reader(string $xhtml): ?XMLReader
    {
        $reader = XMLReader::XML($xhtml, 'UTF-8', LIBXML_NONET | LIBXML_COMPACT);

        return $reader instanceof XMLReader ? $reader : null;
    }
}
