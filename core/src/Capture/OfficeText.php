<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

use Brenvic\Core\Xml\InvalidXml;
use Brenvic\Core\Xml\UntrustedXml;
use DateTimeImmutable;
use DOMElement;

/** The readable text of the parts of office files: Office Open XML (ECMA-376) and OpenDocument (OASIS, 1.2). */
final class OfficeText
{
    private const CONTENT = 'urn:oasis:names:tc:opendocument:xmlns:';

    /** Serial numbers of days count from here (ECMA-376, 18.17.4.1), the leap day that never was included. */
    private const DAY_ZERO = '1899-12-30';

    /** Number formats that show dates (ECMA-376, 18.8.30). */
    private const DATE_FORMATS = [14, 15, 16, 17, 22];

    private const MOST_REPEATED = 1_000;

    /** @throws UnreadableFile when it is not XML */
    public static function root(string $xml): DOMElement
    {
        try {
            return UntrustedXml::root($xml);
        } catch (InvalidXml $fault) {
            throw new UnreadableFile(
                'damaged',
                $fault->declares
                    ? 'The document declares XML entities, which office files never do. It was not read.'
                    : 'The text inside the document is damaged.',
            );
        }
    }

    /**
     * Paragraphs, tabs and line ends of WordprocessingML or DrawingML. Text boxes are there twice, once for old readers.
     *
     * @throws UnreadableFile
     */
    public static function paragraphs(string $xml): string
    {
        $text = '';
        self::collect(self::root($xml), $text);

        return trim((string) preg_replace("/\n{3,}/", "\n\n", $text));
    }

    private static function collect(DOMElement $element, string &$text): void
    {
        foreach ($element->childNodes as $child) {
            if (! ($child instanceof DOMElement) || $child->localName === 'Fallback') {
                continue;
            }
            switch ($child->localName) {
                case 't':
                    $text .= $child->textContent;
                    break;
                case 'tab':
                    $text .= "\t";
                    break;
                case 'br':
                case 'cr':
                    $text .= "\n";
                    break;
                case 'noBreakHyphen':
                    $text .= '-';
                    break;
                case 'tc':
                    self::collect($child, $text);
                    $text = rtrim($text, "\n")."\t";
                    break;
                case 'p':
                case 'tr':
                    self::collect($child, $text);
                    $text .= "\n";
                    break;
                default:
                    self::collect($child, $text);
            }
        }
    }

    /**
     * Paragraphs of an OpenDocument text or presentation, or rows of a spreadsheet; notes, annotations and text boxes stand where
     * they are anchored.
     *
     * @throws UnreadableFile
     */
    public static function openDocument(string $xml): string
    {
        $text = '';
        self::collectOpen(self::root($xml), $text);

        return trim((string) preg_replace(["/[ \t]+\n/", "/\n{3,}/"], ["\n", "\n\n"], $text));
    }

    private static function collectOpen(DOMElement $element, string &$text): void
    {
        foreach ($element->childNodes as $child) {
            if (! ($child instanceof DOMElement)) {
                if ($element->namespaceURI === self::CONTENT.'text:1.0') {
                    $text .= (string) preg_replace('/\s+/u', ' ', (string) $child->textContent);
                }

                continue;
            }
            $name = substr((string) $child->namespaceURI, strlen(self::CONTENT))." {$child->localName}";
            switch ($name) {
                case 'text:1.0 s':
                    $text .= str_repeat(' ', max(1, min(self::MOST_REPEATED, (int) $child->getAttribute('text:c'))));
                    break;
                case 'text:1.0 tab':
                    $text .= "\t";
                    break;
                case 'text:1.0 line-break':
                    $text .= "\n";
                    break;
                case 'text:1.0 tracked-changes':
                    break;
                case 'text:1.0 p':
                case 'text:1.0 h':
                case 'text:1.0 note':
                    self::collectOpen($child, $text);
                    $text .= "\n";
                    break;
                case 'table:1.0 table-cell':
                    $before = strlen($text);
                    self::collectOpen($child, $text);
                    $text = rtrim($text, "\n").(strlen($text) > $before ? "\t" : '');
                    break;
                case 'table:1.0 table-row':
                case 'drawing:1.0 page':
                    self::collectOpen($child, $text);
                    $text .= "\n";
                    break;
                case 'table:1.0 table':
                    $title = $child->getAttribute('table:name');
                    $text .= $title === '' ? '' : "\n{$title}\n";
                    self::collectOpen($child, $text);
                    break;
                default:
                    self::collectOpen($child, $text);
            }
        }
    }

    /**
     * The names of the sheets of a workbook by the part they are in, in order.
     *
     * @param  string  $relations  xl/_rels/workbook.xml.rels
     * @return array<string, string> name of the part => name of the sheet
     *
     * @throws UnreadableFile
     */
    public static function sheets(string $workbook, string $relations): array
    {
        $targets = [];
        foreach (self::root($relations)->getElementsByTagNameNS('*', 'Relationship') as $relation) {
            $targets[$relation->getAttribute('Id')] = $relation->getAttribute('Target');
        }
        $sheets = [];
        foreach (self::root($workbook)->getElementsByTagNameNS('*', 'sheet') as $sheet) {
            $target = $targets[$sheet->getAttribute('r:id')] ?? '';
            if ($target !== '') {
                $sheets[str_starts_with($target, '/') ? substr($target, 1) : "xl/{$target}"] = $sheet->getAttribute('name');
            }
        }

        return $sheets;
    }

    /**
     * The strings that cells of a workbook share.
     *
     * @return list<string>
     *
     * @throws UnreadableFile
     */
    public static function sharedStrings(string $xml): array
    {
        $strings = [];
        foreach (self::root($xml)->getElementsByTagNameNS('*', 'si') as $item) {
            $strings[] = self::string($item);
        }

        return $strings;
    }

    private static function string(DOMElement $item): string
    {
        $text = '';
        foreach ($item->getElementsByTagNameNS('*', 't') as $piece) {
            // How kanji are read stands beside them.
            $text .= $piece->parentNode?->localName === 'rPh' ? '' : $piece->textContent;
        }

        return $text;
    }

    /**
     * Which styles of cells show a date.
     *
     * @return list<bool> by the number of the style
     *
     * @throws UnreadableFile
     */
    public static function dateStyles(string $xml): array
    {
        return array_map(static fn (array $format): bool => self::isDate(...$format), self::formats($xml));
    }

    /**
     * How styles of cells show numbers.
     *
     * @return list<array{int, string|null}> by the number of the style: the number of the format, and its code unless it is built in
     *
     * @throws UnreadableFile
     */
    public static function formats(string $xml): array
    {
        $root = self::root($xml);
        $codes = [];
        foreach ($root->getElementsByTagNameNS('*', 'numFmt') as $format) {
            $codes[(int) $format->getAttribute('numFmtId')] = $format->getAttribute('formatCode');
        }
        $styles = [];
        foreach ($root->getElementsByTagNameNS('*', 'cellXfs') as $list) {
            foreach ($list->getElementsByTagNameNS('*', 'xf') as $style) {
                $number = (int) $style->getAttribute('numFmtId');
                $styles[] = [$number, $codes[$number] ?? null];
            }
        }

        return $styles;
    }

    /** Whether a format shows a date: it has days or years outside of quotes and brackets. */
    public static function isDate(int $number, ?string $code): bool
    {
        return $code === null
            ? in_array($number, self::DATE_FORMATS, true)
            : preg_match('/[dy]/i', (string) preg_replace('/"[^"]*"|\\\\.|\[[^\]]*\]/', '', $code)) === 1;
    }

    /**
     * The rows of one sheet, cells with tabs between.
     *
     * @param  list<string>  $shared
     * @param  list<bool>  $dates
     *
     * @throws UnreadableFile
     */
    public static function sheet(string $xml, array $shared, array $dates): string
    {
        $text = '';
        foreach (self::root($xml)->getElementsByTagNameNS('*', 'row') as $row) {
            $cells = [];
            foreach ($row->getElementsByTagNameNS('*', 'c') as $cell) {
                $cells[] = self::cell($cell, $shared, $dates);
            }
            $line = rtrim(implode("\t", $cells));
            $text .= $line === '' ? '' : "{$line}\n";
        }

        return rtrim($text);
    }

    /**
     * @param  list<string>  $shared
     * @param  list<bool>  $dates
     */
    private static function cell(DOMElement $cell, array $shared, array $dates): string
    {
        $type = $cell->getAttribute('t');
        if ($type === 'inlineStr') {
            return self::string($cell);
        }
        $value = $cell->getElementsByTagNameNS('*', 'v')->item(0)->textContent ?? '';

        return match (true) {
            $type === 's' => $shared[(int) $value] ?? '',
            $type === 'b' => $value === '1' ? 'TRUE' : 'FALSE',
            $type === '' || $type === 'n' => is_numeric($value) && ($dates[(int) $cell->getAttribute('s')] ?? false)
                ? self::day((float) $value)
                : $value,
            default => $value,
        };
    }

    private static function day(float $serial): string
    {
        return $serial < 0 || $serial > 2_958_466
            ? (string) $serial
            : (new DateTimeImmutable(self::DAY_ZERO))->modify('+'.(int) $serial.' days')->format('Y-m-d');
    }
}
