<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

/**
 * A table as the content of an OpenDocument spreadsheet (OASIS OpenDocument 1.2, content.xml), written piece by piece so
 * that a long one needs no memory. The package around it is `mimetype`, `META-INF/manifest.xml` and `content.xml`.
 */
final class OdsSheet
{
    public const MIME = 'application/vnd.oasis.opendocument.spreadsheet';

    public const MANIFEST = '<?xml version="1.0" encoding="UTF-8"?>'."\n".'<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2"><manifest:file-entry manifest:full-path="/" manifest:version="1.2" manifest:media-type="'.self::MIME.'"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>';

    public static function head(string $name): string
    {
        return '<?xml version="1.0" encoding="UTF-8"?>'."\n".'<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.2"><office:body><office:spreadsheet><table:table table:name="'.self::escaped($name).'">';
    }

    /** @param  list<string>  $cells */
    public static function row(array $cells): string
    {
        $row = '<table:table-row>';
        foreach ($cells as $cell) {
            $row .= '<table:table-cell office:value-type="string"><text:p>'.self::escaped($cell).'</text:p></table:table-cell>';
        }

        return $row.'</table:table-row>';
    }

    public static function foot(): string
    {
        return '</table:table></office:spreadsheet></office:body></office:document-content>';
    }

    private static function escaped(string $text): string
    {
        return htmlspecialchars((string) preg_replace('/[\x00-\x08\x0B\x0C\x0E-\x1F]/', '', mb_scrub($text)), ENT_XML1 | ENT_QUOTES);
    }
}
