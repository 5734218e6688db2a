<?php

declare(strict_types=1);

use Brenvic\Core\Templates\OpenTextTemplate;
use Brenvic\Core\Templates\Placeholders;
use Brenvic\Core\Templates\WordTemplate;
use Brenvic\Core\Xml\InvalidXml;

const WORD = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';

function wordPart(string $body): string
{
    return '<?xml version="1.0"?><w:document xmlns:w="'.WORD."\"><w:body>{$body}</w:body></w:document>";
}

/** @param  list<string>  $runs */
function runs(array $runs): string
{
    return '<w:p>'.implode('', array_map(static fn (string $t): string => "<w:r><w:t>{$t}</w:t></w:r>", $runs)).'</w:p>';
}

/** @return list<string> the texts of the pieces of a part */
function pieces(string $xml, string $name = 't'): array
{
    $document = new DOMDocument();
    $document->loadXML($xml);

    return array_map(static fn (DOMNode $n): string => $n->textContent, iterator_to_array($document->getElementsByTagNameNS('*', $name)));
}

beforeEach(function () {
    $this->values = new Placeholders(['vessel' => 'Marigold <Ash> & Co', 'document_date' => '3 May 2024', 'berth' => '']);
});

it('sets values into text, and leaves what is no field', function () {
    expect($this->values->inText('{vessel}, {berth}{unknown} {Vessel} {{document_date}}'))
        ->toBe('Marigold <Ash> & Co, {unknown} {Vessel} {3 May 2024}')
        ->and(Placeholders::named('{vessel} {a-b} {vessel} {} {A}'))->toBe(['vessel', 'a-b']);
});

it('sets them into a document whose placeholders are cut in pieces, in tables, headers and boxes too', function () {
    $xml = wordPart(
        runs(['For {ves', 'sel', '} from ', '{document_date}'])
            .'<w:tbl><w:tr><w:tc>'.runs(['Berth {berth}.']).'</w:tc></w:tr></w:tbl>'
            .'<w:p><w:r><w:t>Outer {ve</w:t></w:r><w:r><w:pict><w:txbxContent>'.runs(['{document_date} inner'])
            .'</w:txbxContent></w:pict></w:r><w:r><w:t>ssel}</w:t></w:r></w:p>',
    );
    expect(pieces(WordTemplate::filled($xml, $this->values)))->toBe([
        'For Marigold <Ash> & Co', '', ' from ', '3 May 2024', 'Berth .', 'Outer Marigold <Ash> & Co', '3 May 2024 inner', '',
    ]);
});

it('sets them into content controls by their tags and titles', function () {
    $control = static fn (string $properties, string $text): string => "<w:sdt><w:sdtPr>{$properties}<w:showingPlcHdr/></w:sdtPr>".
        '<w:sdtContent>'.runs([$text, ' more']).'</w:sdtContent></w:sdt>';
    $filled = WordTemplate::filled(wordPart(
        $control('<w:tag w:val="vessel"/>', 'Click here').$control('<w:alias w:val="document_date"/>', 'Date').$control('<w:tag w:val="other"/>', 'Stays'),
    ), $this->values);
    expect(pieces($filled))->toBe(['Marigold <Ash> & Co', '', '3 May 2024', '', 'Stays', ' more'])
        ->and(substr_count($filled, 'showingPlcHdr'))->toBe(1);
});

it('fills open text documents alike', function () {
    $xml = '<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" '.
        'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><text:h>On {document_<text:span>date}</text:span></text:h>'.
        '<text:p>{vessel}<text:note><text:p>{berth}note</text:p></text:note></text:p></office:document-content>';
    expect(pieces(OpenTextTemplate::filled($xml, $this->values), 'h'))->toBe(['On 3 May 2024'])
        ->and(pieces(OpenTextTemplate::filled($xml, $this->values), 'p'))->toBe(['Marigold <Ash> & Conote', 'note']);
});

it('knows the parts that have text, and takes nothing that declares entities', function () {
    expect(array_map(WordTemplate::isPart(...), ['word/document.xml', 'word/header2.xml', 'word/styles.xml', '../word/document.xml']))
        ->toBe([true, true, false, false])
        ->and(array_map(OpenTextTemplate::isPart(...), ['content.xml', 'styles.xml', 'meta.xml']))->toBe([true, true, false]);
    $entities = '<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>';
    expect(fn () => WordTemplate::filled($entities, $this->values))->toThrow(InvalidXml::class)
        ->and(fn () => OpenTextTemplate::filled($entities, $this->values))->toThrow(InvalidXml::class);
});

it('puts values in wherever the pieces are cut', function () {
    $text = 'The vessel {vessel} of {document_date} lies at {berth}, not at {nowhere}.';
    $expected = $this->values->inText($text);
    mt_srand(5);
    for ($i = 0; $i < 300; $i++) {
        $parts = [];
        for ($at = 0; $at < strlen($text); $at += $length) {
            $length = mt_rand(1, 12);
            $parts[] = substr($text, $at, $length);
        }
        expect(implode('', pieces(WordTemplate::filled(wordPart(runs($parts)), $this->values))))->toBe($expected);
    }
});
