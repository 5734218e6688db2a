<?php

declare(strict_types=1);

use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Exchange\Bag;
use Brenvic\Core\Exchange\BagNames;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\DublinCore;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\SheetCell;
use Brenvic\Core\Exchange\SpreadsheetRows;
use Brenvic\Core\Exchange\TableDescription;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\TextKind;

it('writes rows of CSV that come back as they were, whatever is in them', function () {
    seeded(12);
    $signs = ['-5', '@', '+', '-', 'a', 'é', '"', ',', "\n", "\r\n", ' ', ';', '=1+1', '日', "'", '\\', ''];
    for ($i = 0; $i < 300; $i++) {
        $row = array_map(
            static fn (): string => implode('', array_map(static fn (): string => $signs[array_rand($signs)], range(0, mt_rand(0, 5)))),
            range(0, mt_rand(1, 6)),
        );
        $stream = fopen('php://memory', 'w+b');
        fwrite($stream, CsvRow::of($row).CsvRow::forSpreadsheet($row));
        rewind($stream);
        // As it is; and for a spreadsheet with an apostrophe before what it would take for a formula, and before nothing else.
        expect(array_map(strval(...), fgetcsv($stream, escape: '')))
            ->toBe($row)
            ->and(array_map(strval(...), fgetcsv($stream, escape: '')))
            ->toBe(
                array_map(
                    static fn (string $cell): string => in_array($cell[0] ?? '', ['=', '+', '-', '@', "\t", "\r"], true) &&
                    ! is_numeric($cell)
                        ? "'{$cell}"
                        : $cell,
                    $row,
                ),
            );
    }
});

it('gives every file of a bag a name of its own that no system refuses', function () {
    seeded(4);
    $names = [];
    for ($i = 0; $i < 400; $i++) {
        $names[] = [
            'a.pdf',
            'A.PDF',
            'a/b.pdf',
            '../x.pdf',
            'CON.txt',
            'ends. ',
            'é.pdf',
            "e\u{0301}.pdf",
            'x/',
            '',
            'what?.pdf',
            str_repeat('long', 90).'.pdf',
        ][mt_rand(0, 11)];
    }
    $made = array_map((new BagNames())->take(...), $names);
    expect($made)
        ->toHaveCount(400)
        ->and(count(array_unique(array_map(static fn (string $n): string => mb_strtolower((string) Normalizer::normalize($n)), $made))))
        ->toBe(400);
    foreach ($made as $name) {
        expect($name)->not->toBe('')->not->toContain('..')->not->toStartWith('/')->not->toMatch('/[<>:"|?*\\\\\x00-\x1f]/');
        foreach (explode('/', $name) as $part) {
            expect(strlen($part))->toBeLessThanOrEqual(255)->and($part)->not->toMatch('/[. ]$/')->not->toBe('');
        }
    }
});

it('writes the tags of a bag as RFC 8493 has them', function () {
    expect(Bag::DECLARATION)
        ->toBe("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n")
        ->and(Bag::manifestLine('abc', "data/a%b\nc.pdf"))
        ->toBe("abc  data/a%25b%0Ac.pdf\n");
    $info = Bag::info(123, 4, new DateTimeImmutable('2024-03-01T00:00:00Z'), [
        'External-Description' => "Two\nlines",
        'Contact-Name' => 'Zoë',
    ]);
    expect($info)
        ->toContain("Payload-Oxum: 123.4\n")
        ->toContain("Bagging-Date: 2024-03-01\n")
        ->toContain("Contact-Name: Zoë\n")
        ->not->toMatch('/^lines/m');
});

it('writes Dublin Core of mapped fields, escaped, and none of unmapped ones', function () {
    $fields = [
        'w' => new FieldDefinition('w', 'Waterway', new TextKind, dublinCore: 'coverage'),
        'n' => new FieldDefinition('n', 'Note', new TextKind),
    ];
    $xml = DublinCore::xml(DublinCore::of($fields, ['w' => ['Cray & <Tarn>'], 'n' => ['hidden']], ['title' => ['A "title"']]));
    $parsed = new SimpleXMLElement($xml);
    $dc = $parsed->children('http://purl.org/dc/elements/1.1/');
    expect((string) $dc->coverage)->toBe('Cray & <Tarn>')->and((string) $dc->title)->toBe('A "title"')->and($xml)->not->toContain('hidden');
});

it('describes a table so that its columns are known', function () {
    $json = json_decode(
        TableDescription::json(
            't.csv',
            ['reference' => 'Reference'],
            ['d' => new FieldDefinition('d', 'Depth', new NumberKind, unit: 'm')],
        ),
        true,
    );
    expect($json['@context'])
        ->toBe('http://www.w3.org/ns/csvw')
        ->and($json['url'])
        ->toBe('t.csv')
        ->and(array_column($json['tableSchema']['columns'], 'name'))
        ->toBe(['reference', 'd']);
});

it('writes a spreadsheet that is well-formed whatever is in its cells', function () {
    $xml = OdsSheet::head('A & B').OdsSheet::row(['<x>', "two\nlines", "control \x01", '12.5', '']).OdsSheet::foot();
    $parsed = new DOMDocument();
    expect($parsed->loadXML($xml))->toBeTrue()->and($parsed->textContent)->toContain('<x>')->toContain('lines');
});

it('writes numbers as numbers and days as days in a spreadsheet, and all else as text', function () {
    $field = static fn (FieldKind $kind, bool $sensitive = false): FieldDefinition => new FieldDefinition(
        'f',
        'F',
        $kind,
        unit: $kind instanceof NumberKind ? 'm' : '',
        sensitive: $sensitive,
    );
    $row = OdsSheet::row([
        SheetCell::of($field(new NumberKind), '1 234.5 m', ['1234.5']),
        SheetCell::of($field(new DateKind), '14 Mar 2024', ['2024-03-14']),
        SheetCell::of($field(new DateKind), 'Mar 2024', ['2024-03']),
        SheetCell::of($field(new NumberKind), '1, 2', ['1', '2']),
        SheetCell::of($field(new NumberKind, true), '•••', ['7']),
        SheetCell::of(null, '=1+1', ['=1+1']),
        'a < b',
    ]);
    $sheet = OdsSheet::head('T').$row.OdsSheet::foot();
    $document = new DOMDocument();
    expect($document->loadXML($sheet))->toBeTrue();
    $cells = [];
    foreach ($document->getElementsByTagNameNS('*', 'table-cell') as $cell) {
        $cells[] = [
            $cell->getAttribute('office:value-type'),
            $cell->getAttribute('office:value').$cell->getAttribute('office:date-value'),
            $cell->textContent,
        ];
    }
    expect($cells)->toBe([
        ['float', '1234.5', '1 234.5 m'],
        ['date', '2024-03-14', '14 Mar 2024'],
        ['string', '', 'Mar 2024'],
        ['string', '', '1, 2'],
        ['string', '', '•••'],
        ['string', '', '=1+1'],
        ['string', '', 'a < b'],
    ]);
});

/** @param  array<string, string>  $members */
function archiveOf(array $members): string
{
    $path = (string) tempnam(sys_get_temp_dir(), 'sheet');
    $zip = new ZipArchive();
    $zip->open($path, ZipArchive::OVERWRITE);
    foreach ($members as $name => $text) {
        $zip->addFromString($name, $text);
    }
    $zip->close();

    return $path;
}

it('reads the first sheet of an Office Open XML file: shared and own texts, dates, amounts, gaps', function () {
    $path = archiveOf([
        'xl/workbook.xml' => '<workbook xmlns:r="x"><sheets><sheet name="B" sheetId="1" r:id="rId7"/><sheet name="C" sheetId="2" r:id="rId8"/></sheets></workbook>',
        'xl/_rels/workbook.xml.rels' => '<Relationships><Relationship Id="rId8" Target="worksheets/sheet2.xml"/><Relationship Id="rId7" Target="/xl/worksheets/one.xml"/></Relationships>',
        'xl/sharedStrings.xml' => '<sst><si><t>Lock</t></si><si><r><t>Sill </t></r><r><t>depth</t></r><rPh><t>no</t></rPh></si></sst>',
        'xl/styles.xml' => '<styleSheet><numFmts><numFmt numFmtId="164" formatCode="[$£-809]#,##0.00"/><numFmt numFmtId="165" formatCode="dd/mm/yyyy"/><numFmt numFmtId="166" formatCode="0.0&quot; yards&quot;"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="165"/><xf numFmtId="164"/><xf numFmtId="14"/><xf numFmtId="166"/></cellXfs></styleSheet>',
        'xl/worksheets/one.xml' => '<worksheet><sheetData><row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="s"><v>1</v></c></row>'.
            '<row r="2"><c r="A2" t="inlineStr"><is><t>Fen &amp; mere</t></is></c><c r="C2" s="1"><v>45365</v></c><c r="D2" s="2"><v>1250.5</v></c><c r="E2" s="3"><v>1</v></c></row>'.
            '<row r="3"><c r="AA3"><f>SUM(A1:A2)</f><v>0.30000000000000004</v></c><c r="AB3" t="b"><v>1</v></c><c r="AC3" t="e"><v>#N/A</v></c><c r="AD3" s="4"><v>12</v></c></row></sheetData></worksheet>',
    ]);
    $rows = iterator_to_array((new SpreadsheetRows($path))->rows(), false);
    unlink($path);
    expect($rows)->toBe([
        ['Lock', 'Sill depth'],
        ['Fen & mere', '', '2024-03-14', '£1250.5', '1900-01-01'],
        [...array_fill(0, 26, ''), '0.3', 'yes', '', '12'],
    ]);
});

it('reads the first sheet of an OpenDocument file: repeated cells and rows, dates, amounts, notes left out', function () {
    $cell = static fn (string $text, string $more = ''): string => "<table:table-cell {$more}><text:p>{$text}</text:p></table:table-cell>";
    $path = archiveOf(['content.xml' => '<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><table:table>'.
        '<table:table-row>'.$cell('Lock').$cell('Opened').$cell('Fee').'<table:table-cell table:number-columns-repeated="1021"/></table:table-row>'.
        '<table:table-row table:number-rows-repeated="2">'.$cell('Fen', 'table:number-columns-repeated="2"').
        $cell('£1,250', 'office:value-type="currency" office:value="1250" office:currency="GBP"').'</table:table-row>'.
        '<table:table-row>'.$cell('14/03/24', 'office:value-type="date" office:date-value="2024-03-14T00:00:00"').
        '<table:table-cell><office:annotation><text:p>seen</text:p></office:annotation><text:p>one</text:p><text:p>two</text:p></table:table-cell>'.
        $cell('1,5', 'office:value-type="float" office:value="1.5"').'</table:table-row>'.
        '<table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="1024"/></table:table-row>'.
        '</table:table><table:table><table:table-row>'.$cell('other').'</table:table-row></table:table></office:document-content>']);
    $rows = iterator_to_array((new SpreadsheetRows($path))->rows(), false);
    unlink($path);
    expect($rows)->toBe([['Lock', 'Opened', 'Fee'], ['Fen', 'Fen', 'GBP 1250'], ['Fen', 'Fen', 'GBP 1250'], ['2024-03-14', "one\ntwo", '1.5'], []]);
});

it('says of what is no spreadsheet that it is none', function () {
    $archive = archiveOf(['readme.txt' => 'x']);
    expect(static fn () => iterator_to_array((new SpreadsheetRows($archive))->rows()))->toThrow(UnreadableFile::class, 'not a spreadsheet');
    file_put_contents($archive, "PK\x03\x04 broken");
    expect(static fn () => iterator_to_array((new SpreadsheetRows($archive))->rows()))->toThrow(UnreadableFile::class, 'damaged');
    unlink($archive);
});
