<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use Brenvic\Core\Xml\XmlText;

/**
 * A table as the content of an OpenDocument spreadsheet (OASIS OpenDocument 1.2, content.xml), written piece by piece so
 * that a long one needs no memory. The package around it is `mimetype`, `META-INF/manifest.xml` and `content.xml`.
 */
final class OdsSheet
{
    public const MIME = 'application/vnd.oasis.opendocument.spreadsheet';

    public const MANIFEST =
        '<?xml version="1.0" encoding="UTF-8"?>'.
        "\n".
        '<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2">'.
        '<manifest:file-entry manifest:full-path="/" manifest:version="1.2" manifest:media-type="'.
        self::MIME.
        '"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>';

    /** Dates are shown as everywhere in Brenvic: 14 Mar 2024. */
    private const STYLES = '<office:automatic-styles><number:date-style style:name="day"><number:day/><number:text> </number:text>'.
        '<number:month number:textual="true"/><number:text> </number:text><number:year number:style="long"/></number:date-style>'.
        '<style:style style:name="date" style:family="table-cell" style:data-style-name="day"/></office:automatic-styles>';

    public static function head(string $name): string
    {
        return '<?xml version="1.0" encoding="UTF-8"?>'.
            "\n".
            '<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"'.
            ' xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"'.
            ' xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" xmlns:number="urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0"'.
            ' office:version="1.2">'.
            self::STYLES.
            '<office:body><office:spreadsheet><table:table table:name="'.
            XmlText::escaped($name).
            '">';
    }

    /** @param  list<string|SheetCell>  $cells */
    public static function row(array $cells): string
    {
        $row = '<table:table-row>';
        foreach ($cells as $cell) {
            [$type, $shown] = match (true) {
                $cell instanceof SheetCell && $cell->type === 'float' => [
                    'office:value-type="float" office:value="'.XmlText::escaped($cell->value).'"',
                    $cell->shown,
                ],
                $cell instanceof SheetCell && $cell->type === 'date' => [
                    'table:style-name="date" office:value-type="date" office:date-value="'.XmlText::escaped($cell->value).'"',
                    $cell->shown,
                ],
                default => ['office:value-type="string"', $cell instanceof SheetCell ? $cell->shown : $cell],
            };
            $row .= "<table:table-cell {$type}><text:p>".XmlText::escaped($shown).'</text:p></table:table-cell>';
        }

        return $row.'</table:table-row>';
    }

    /** Between the rows of one sheet and those of the next. */
    public static function next(string $name): string
    {
        return '</table:table><table:table table:name="'.XmlText::escaped($name).'">';
    }

    public static function foot(): string
    {
        return '</table:table></office:spreadsheet></office:body></office:document-content>';
    }
}
