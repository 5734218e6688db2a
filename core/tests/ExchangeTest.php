<?php

declare(strict_types=1);

use Brenvic\Core\Exchange\Bag;
use Brenvic\Core\Exchange\BagNames;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\DublinCore;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\SheetCell;
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
