<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use Brenvic\Core\Capture\OfficeText;
use Brenvic\Core\Capture\UnreadableFile;
use Generator;
use XMLReader;
use ZipArchive;

/**
 * The rows of the first sheet of a spreadsheet, read as they come: Office Open XML (ISO/IEC 29500-1, 18.3 and 18.8) and
 * OpenDocument (ISO/IEC 26300, 9). Dates come as ISO 8601, numbers with a decimal point, all else as the text of the cell.
 */
final readonly class SpreadsheetRows
{
    /** What is repeated more often than this is the empty rest of a sheet. */
    private const REPEATED = 1_000;

    private const CELLS = ['table:table-cell', 'table:covered-table-cell'];

    private const LONGEST_CELL = 32_768;

    /** Built-in formats of numbers that are dates elsewhere, or times that may have a day (18.8.30). */
    private const DATE_FORMATS = [27, 30, 36, 45, 46, 47, 50, 57];

    /** Days from the beginning of serial dates to 1970-01-01 (18.17.4.1). */
    private const EPOCH = 25_569;

    public function __construct(private string $path)
    {
    }

    /**
     * @return Generator<int, list<string>>
     *
     * @throws UnreadableFile
     */
    public function rows(): Generator
    {
        $zip = new ZipArchive();
        if ($zip->open($this->path, ZipArchive::RDONLY) !== true) {
            throw new UnreadableFile('damaged', 'The spreadsheet is damaged.');
        }
        try {
            if ($zip->locateName('content.xml') !== false) {
                yield from $this->openDocument();

                return;
            }
            $sheet = self::firstSheet($zip);
            if ($sheet === null) {
                throw new UnreadableFile('damaged', 'This is an archive, and not a spreadsheet.');
            }
            yield from $this->officeOpen($sheet, $this->strings($zip), self::styles($zip));
        } finally {
            $zip->close();
        }
    }

    private function reader(string $member): XMLReader
    {
        $reader = @XMLReader::open("zip://{$this->path}#{$member}", null, LIBXML_NONET | LIBXML_COMPACT | LIBXML_PARSEHUGE);

        return $reader instanceof XMLReader ? $reader : throw new UnreadableFile('damaged', 'The spreadsheet is damaged.');
    }

    /** The path of the first sheet in the archive. */
    private static function firstSheet(ZipArchive $zip): ?string
    {
        $book = $zip->getFromName('xl/workbook.xml');
        $links = $zip->getFromName('xl/_rels/workbook.xml.rels');

        return $book === false || $links === false ? null : array_key_first(OfficeText::sheets($book, $links));
    }

    /** @return list<string> what cells refer to by number, read as they come: they may be most of the file */
    private function strings(ZipArchive $zip): array
    {
        if ($zip->locateName('xl/sharedStrings.xml') === false) {
            return [];
        }
        $reader = $this->reader('xl/sharedStrings.xml');
        $strings = [];
        while (@$reader->read()) {
            if ($reader->nodeType === XMLReader::ELEMENT && $reader->localName === 'si') {
                $strings[] = self::text($reader, ['rPh']);
            }
        }
        $reader->close();

        return $strings;
    }

    /** @return list<string> by style: `date`, the sign of the currency before its numbers, or nothing */
    private static function styles(ZipArchive $zip): array
    {
        $styles = $zip->getFromName('xl/styles.xml');

        return array_map(static function (array $format): string {
            if (preg_match('/\[\$([^\]\s-]{1,3})|"([£€$¥₹])"|([£€¥₹])/u', (string) $format[1], $sign) === 1) {
                return implode('', array_slice($sign, 1));
            }

            return OfficeText::isDate(...$format) || in_array($format[0], self::DATE_FORMATS, true) ? 'date' : '';
        }, $styles === false ? [] : OfficeText::formats($styles));
    }

    /**
     * @param  list<string>  $strings
     * @param  list<string>  $styles
     * @return Generator<int, list<string>>
     */
    private function officeOpen(string $sheet, array $strings, array $styles): Generator
    {
        $reader = $this->reader($sheet);
        $row = [];
        while (@$reader->read()) {
            if ($reader->localName === 'row') {
                if ($reader->nodeType === XMLReader::END_ELEMENT) {
                    yield $row;
                }
                $row = [];
            } elseif ($reader->nodeType === XMLReader::ELEMENT && $reader->localName === 'c') {
                [$at, $type, $style] = [$reader->getAttribute('r'), $reader->getAttribute('t'), (int) $reader->getAttribute('s')];
                $column = $at === null ? count($row) : self::column($at);
                $value = self::text($reader, ['f']);
                while (count($row) < min($column, 16_384)) {
                    $row[] = '';
                }
                $row[] = match (true) {
                    $type === 's' => $strings[(int) $value] ?? '',
                    $type === 'b' => $value === '1' ? 'yes' : 'no',
                    $type === 'e' => '',
                    $value !== '' && ($type === null || $type === 'n') => self::styled($value, $styles[$style] ?? ''),
                    default => $value,
                };
            }
        }
        $reader->close();
    }

    private static function styled(string $value, string $meant): string
    {
        return $meant === 'date' ? self::date((float) $value) : $meant.self::number($value);
    }

    /** The number of a column by its letters, from 0: A1 is 0, AB7 is 27. */
    private static function column(string $cell): int
    {
        $column = 0;
        foreach (str_split((string) preg_replace('/[^A-Z]/', '', $cell) ?: 'A') as $letter) {
            $column = $column * 26 + ord($letter) - 64;
        }

        return $column - 1;
    }

    /** Before the 29 February 1900, which these serial numbers have and the calendar has not, days are one later. */
    private static function date(float $serial): string
    {
        if ($serial < 1 || $serial > 2_958_466) {
            return self::number((string) $serial);
        }
        $days = (int) floor($serial) + ($serial < 60 ? 1 : 0);

        return gmdate('Y-m-d', ($days - self::EPOCH) * 86_400);
    }

    /** Numbers are kept with 15 digits and more; what a person wrote is the shortest that is the same. */
    private static function number(string $value): string
    {
        if (! is_numeric($value)) {
            return $value;
        }
        $number = (float) $value;

        return abs($number) < 1e15 && floor($number) === $number
            ? sprintf('%.0F', $number)
            : rtrim(rtrim(sprintf('%.10F', $number), '0'), '.');
    }

    /** @return Generator<int, list<string>> */
    private function openDocument(): Generator
    {
        $reader = $this->reader('content.xml');
        $row = [];
        $times = 1;
        $isIn = false;
        while (@$reader->read()) {
            $name = $reader->name;
            if ($name === 'table:table') {
                if ($reader->nodeType === XMLReader::END_ELEMENT) {
                    break;
                }
                $isIn = true;
            } elseif ($isIn && $name === 'table:table-row') {
                if ($reader->nodeType === XMLReader::ELEMENT) {
                    $row = [];
                    $times = (int) ($reader->getAttribute('table:number-rows-repeated') ?? 1);
                } else {
                    for ($i = 0; $i < ($times > self::REPEATED ? 1 : $times); $i++) {
                        yield self::trimmed($row);
                    }
                }
            } elseif ($isIn && $reader->nodeType === XMLReader::ELEMENT && in_array($name, self::CELLS, true)) {
                $repeated = (int) ($reader->getAttribute('table:number-columns-repeated') ?? 1);
                $kind = $reader->getAttribute('office:value-type');
                $date = $reader->getAttribute('office:date-value');
                $number = $reader->getAttribute('office:value');
                $currency = $reader->getAttribute('office:currency');
                $isTrue = $reader->getAttribute('office:boolean-value') === 'true';
                $text = self::text($reader, ['annotation']);
                $cell = match ($kind) {
                    'date' => substr((string) $date, 0, 10),
                    'float' => self::number((string) $number),
                    'currency' => trim("{$currency} ".self::number((string) $number)),
                    'boolean' => $isTrue ? 'yes' : 'no',
                    default => $text,
                };
                for ($i = 0; $i < ($repeated > self::REPEATED ? 1 : $repeated); $i++) {
                    $row[] = $cell;
                }
            }
        }
        $reader->close();
    }

    /**
     * @param  list<string>  $row
     * @return list<string> without the empty cells behind the last that is not
     */
    private static function trimmed(array $row): array
    {
        $last = count($row);
        while ($last > 0 && $row[$last - 1] === '') {
            $last--;
        }

        return array_slice($row, 0, $last);
    }

    /**
     * The text within the element that the reader stands at, to its end; paragraphs on lines of their own.
     *
     * @param  list<string>  $without  elements whose text is none of it
     */
    private static function text(XMLReader $reader, array $without): string
    {
        if ($reader->isEmptyElement) {
            return '';
        }
        $depth = $reader->depth;
        $text = '';
        $skipped = null;
        $isSecond = false;
        while (@$reader->read() && $reader->depth > $depth) {
            if ($skipped !== null) {
                $skipped = $reader->nodeType === XMLReader::END_ELEMENT && $reader->depth === $skipped ? null : $skipped;
            } elseif ($reader->nodeType === XMLReader::ELEMENT) {
                if (in_array($reader->localName, $without, true) && ! $reader->isEmptyElement) {
                    $skipped = $reader->depth;
                } elseif ($reader->name === 'text:p') {
                    $text .= $isSecond ? "\n" : '';
                    $isSecond = true;
                } elseif ($reader->name === 'text:s' || $reader->name === 'text:tab') {
                    $text .= ' ';
                }
            } elseif (in_array($reader->nodeType, [XMLReader::TEXT, XMLReader::CDATA, XMLReader::SIGNIFICANT_WHITESPACE], true)) {
                $text .= strlen($text) < self::LONGEST_CELL ? $reader->value : '';
            }
        }

        return $text;
    }
}
