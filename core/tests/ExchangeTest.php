<?php

declare(strict_types=1);

use Brenvic\Core\Exchange\Bag;
use Brenvic\Core\Exchange\BagNames;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\DublinCore;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\TableDescription;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

it('writes rows of CSV that come back as they were, whatever is in them', function () {
    mt_srand(12);
    $signs = ['a', 'é', '"', ',', "\n", "\r\n", ' ', ';', '=1+1', '日', "'", '\\', ''];
    for ($i = 0; $i < 300; $i++) {
        $row = array_map(static fn (): string => implode('', array_map(static fn (): string => $signs[array_rand($signs)], range(0, mt_rand(0, 5)))), range(0, mt_rand(1, 6)));
        $stream = fopen('php://memory', 'w+b');
        fwrite($stream, CsvRow::of($row));
        rewind($stream);
        $back = array_map(strval(...), fgetcsv($stream, escape: ''));
        // What a spreadsheet would take for a formula is led by an apostrophe.
        expect(array_map(static fn (string $cell): string => ltrim($cell, "'"), $back))->toBe(array_map(static fn (string $cell): string => ltrim($cell, "'"), $row));
    }
});

it('gives every file of a bag a name of its own that no system refuses', function () {
    mt_srand(4);
    $names = [];
    for ($i = 0; $i < 400; $i++) {
        $names[] = ['a.pdf', 'A.PDF', 'a/b.pdf', '../x.pdf', 'CON.txt', 'ends. ', 'é.pdf', "e\u{0301}.pdf", 'x/', '', 'what?.pdf', str_repeat('long', 90).'.pdf'][mt_rand(0, 11)];
    }
    $made = array_map((new BagNames)->take(...), $names);
    expect($made)->toHaveCount(400)->and(count(array_unique(array_map(static fn (string $n): string => mb_strtolower((string) Normalizer::normalize($n)), $made))))->toBe(400);
    foreach ($made as $name) {
        expect($name)->not->toBe('')->not->toContain('..')->not->toStartWith('/')->not->toMatch('/[<>:"|?*\\\\\x00-\x1f]/');
        foreach (explode('/', $name) as $part) {
            expect(strlen($part))->toBeLessThanOrEqual(255)->and($part)->not->toMatch('/[. ]$/')->not->toBe('');
        }
    }
});

it('writes the tags of a bag as RFC 8493 has them', function () {
    expect(Bag::DECLARATION)->toBe("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n")
        ->and(Bag::manifestLine('abc', "data/a%b\nc.pdf"))->toBe("abc  data/a%25b%0Ac.pdf\n");
    $info = Bag::info(123, 4, new DateTimeImmutable('2024-03-01T00:00:00Z'), ['External-Description' => "Two\nlines", 'Contact-Name' => 'Zoë']);
    expect($info)->toContain("Payload-Oxum: 123.4\n")->toContain("Bagging-Date: 2024-03-01\n")->toContain("Contact-Name: Zoë\n")->not->toMatch('/^lines/m');
});

it('writes Dublin Core of mapped fields, escaped, and none of unmapped ones', function () {
    $fields = ['w' => new FieldDefinition('w', 'Waterway', FieldKind::Text, dublinCore: 'coverage'), 'n' => new FieldDefinition('n', 'Note', FieldKind::Text)];
    $xml = DublinCore::xml(DublinCore::of($fields, ['w' => ['Cray & <Tarn>'], 'n' => ['hidden']], ['title' => ['A "title"']]));
    $parsed = new SimpleXMLElement($xml);
    $dc = $parsed->children('http://purl.org/dc/elements/1.1/');
    expect((string) $dc->coverage)->toBe('Cray & <Tarn>')->and((string) $dc->title)->toBe('A "title"')->and($xml)->not->toContain('hidden');
});

it('describes a table so that its columns are known', function () {
    $json = json_decode(TableDescription::json('t.csv', ['reference' => 'Reference'], ['d' => new FieldDefinition('d', 'Depth', FieldKind::Number, unit: 'm')]), true);
    expect($json['@context'])->toBe('http://www.w3.org/ns/csvw')->and($json['url'])->toBe('t.csv')->and(array_column($json['tableSchema']['columns'], 'name'))->toBe(['reference', 'd']);
});

it('writes a spreadsheet that is well-formed whatever is in its cells', function () {
    $xml = OdsSheet::head('A & B').OdsSheet::row(['<x>', "two\nlines", "control \x01", '12.5', '']).OdsSheet::foot();
    $parsed = new DOMDocument;
    expect($parsed->loadXML($xml))->toBeTrue()->and($parsed->textContent)->toContain('<x>')->toContain('lines');
});
