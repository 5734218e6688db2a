<?php

declare(strict_types=1);

use Brenvic\Core\Capture\BesidePages;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\LineBreaks;
use Brenvic\Core\Capture\Mailbox;
use Brenvic\Core\Capture\MarkupText;
use Brenvic\Core\Capture\OfficeText;
use Brenvic\Core\Capture\RtfText;
use Brenvic\Core\Capture\TextEncoding;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\PlainQuery;

const RUSSIAN = "Осмотр шлюза показал просачивание воды у порога.\nВорота требуют ремонта до начала навигации.";
const JAPANESE = "水門の点検で敷居の近くに漏水が見つかった。\n修理は来週に行う。";

/** The bytes of a text in an encoding, as the iconv of the system has them. */
function inEncoding(string $text, string $encoding): string
{
    $process = proc_open(['iconv', '-f', 'UTF-8', '-t', $encoding], [['pipe', 'r'], ['pipe', 'w'], STDERR], $pipes);
    fwrite($pipes[0], $text);
    fclose($pipes[0]);
    $bytes = (string) stream_get_contents($pipes[1]);
    proc_close($process);

    return $bytes;
}

it('reads what declares its encoding in it', function (string $encoding, string $text) {
    $none = static fn (): string => '';
    $html = inEncoding("<html><head><meta charset=\"{$encoding}\"><title>T</title></head><body><p>{$text}</p></body></html>", $encoding);
    $xml = inEncoding("<?xml version=\"1.0\" encoding=\"{$encoding}\"?>\n<note>{$text}</note>", $encoding);
    $old = inEncoding("<meta http-equiv=Content-Type content='text/html; charset={$encoding}'><p>{$text}</p>", $encoding);
    foreach ([$html, $xml, $old] as $bytes) {
        $decoded = TextEncoding::decoded($bytes, $none);
        expect($decoded->text)->toContain($text)->and($decoded->isSure)->toBeTrue()->and($decoded->note())->toBe('');
    }
    expect(MarkupText::ofHtml(TextEncoding::decoded($html, $none)->text))->toContain(preg_replace('/\s+/', ' ', $text));
})->with([
    ['KOI8-R', RUSSIAN],
    ['windows-1251', RUSSIAN],
    ['ISO-8859-5', RUSSIAN],
    ['Shift_JIS', JAPANESE],
    ['EUC-JP', JAPANESE],
    ['ISO-2022-JP', JAPANESE],
    ['ISO-8859-1', 'Écluse fermée à Noël'],
    ['ISO-8859-2', 'Łódź, příliš žluťoučký'],
    ['ISO-8859-7', 'Η πύλη διαρρέει'],
    ['ISO-8859-15', 'Coût: 40 €'],
    ['UTF-8', 'Süßwasser €'],
    ['GB2312', '水闸检查报告'],
    ['Big5', '水閘檢查報告'],
    ['EUC-KR', '수문 점검 보고서'],
]);

it('reads letters of two and four bytes with and without a mark', function (string $encoding, string $mark, string $text) {
    $none = static fn (): string => '';
    $bytes = mb_convert_encoding($text, $encoding, 'UTF-8');
    foreach ([$mark.$bytes, $bytes] as $i => $given) {
        $decoded = TextEncoding::decoded($given, $none);
        expect($decoded->text)
            ->toBe($text)
            ->and($decoded->encoding)
            ->toBe($encoding)
            ->and($decoded->isSure)
            ->toBe($i === 0);
    }
    expect(FileKind::detect(substr($bytes, 0, 4_096), 'note.txt'))->toBe(FileKind::Text);
})
    ->with([['UTF-16LE', "\xFF\xFE"], ['UTF-16BE', "\xFE\xFF"], ['UTF-32LE', "\xFF\xFE\0\0"], ['UTF-32BE', "\0\0\xFE\xFF"]])
    ->with([[RUSSIAN], ["The gate leaks at the sill.\nSee note 4."], ["Schleuse geöffnet, 4 € Gebühr.\r\n"]]);

it('asks a detector only where nothing else tells, and says so', function () {
    $guess = static fn (): string => 'KOI8-R';
    $decoded = TextEncoding::decoded(inEncoding(RUSSIAN, 'KOI8-R'), $guess);
    expect($decoded->text)
        ->toBe(RUSSIAN)
        ->and($decoded->isSure)
        ->toBeFalse()
        ->and($decoded->note())
        ->toContain('KOI8-R');
    $latin = TextEncoding::decoded("Caf\xE9 \x80 4", static fn (): string => '');
    expect($latin->text)->toBe('Café € 4')->and($latin->note())->not->toBe('');
    expect(TextEncoding::decoded('plain', $guess)->isSure)
        ->toBeTrue()
        // A declaration that the bytes contradict.
        ->and(TextEncoding::decoded('<meta charset="iso-8859-1"><p>Süß', $guess)->text)
        ->toContain('Süß')
        ->and(TextEncoding::decoded('<meta charset="no-such-thing"><p>x', $guess)->text)
        ->toContain('<p>x')
        ->and(TextEncoding::decoded("\x89PNG\0\0\0\rbinary\0\0", static fn (): string => '')->text)
        ->toBeString();
});

it('never gives text that is not valid UTF-8', function () {
    seeded(23);
    for ($i = 0; $i < 500; $i++) {
        $bytes = implode('', array_map(static fn (): string => chr(mt_rand(0, 255)), range(1, mt_rand(1, 60))));
        foreach (['', 'KOI8-R', 'SHIFT_JIS', 'UTF-16', 'nonsense'] as $guessed) {
            expect(mb_check_encoding(TextEncoding::decoded($bytes, static fn (): string => $guessed)->text, 'UTF-8'))->toBeTrue();
        }
        expect(mb_check_encoding(RtfText::of('{\\rtf1 '.$bytes), 'UTF-8'))->toBeTrue();
    }
});

it('reads the text of RTF and not its code', function (string $rtf, string $text) {
    expect(RtfText::of($rtf))->toBe($text)->and(FileKind::detect($rtf, 'letter.doc'))->toBe(FileKind::Rtf);
})->with([
    [
        '{\rtf1\ansi\ansicpg1252\deff0{\fonttbl{\f0\froman Times New Roman;}}{\colortbl;\red0\green0\blue0;}{\*\generator X 1;}\f0\fs24 The \b gate\b0  leaks.\par Second line\line third\tab end}',
        "The gate leaks.\nSecond line\nthird\tend",
    ],
    ["{\\rtf1\\ansi\\ansicpg1251 \\'ce\\'f1\\'ec\\'ee\\'f2\\'f0 \\u1096?\\u1083?}", 'Осмотр шл'],
    ['{\rtf1\ansi caf\\\'e9 \u8364?4 \emdash  \{braces\} \\\\ end\~of}', 'café €4 — {braces} \\ end of'],
    [
        '{\rtf1{\info{\title Secret}{\author Nobody}}Body{\footnote Below}{\header Above\par}{\pict\wmetafile8 0102abcdef}{\*\bkmkstart x}after}',
        "Body\nBelow\nAbove\nafter",
    ],
    ['{\rtf1 \u-10179?\u-8704? face{\field{\*\fldinst HYPERLINK "http://x.example"}{\fldrslt shown}}}', '😀 faceshown'],
    ['{\rtf1 \trowd a\cell b\cell\row c}', "a\tb\nc"],
    ['{\rtf1 unclosed {\b bold', 'unclosed bold'],
    ['{\rtf1 \bin10 \{\{\{\{\{x}', 'x'],
]);

it('tells files by what is in them', function (string $head, string $name, FileKind $kind) {
    expect(FileKind::detect($head, $name))
        ->toBe($kind)
        ->and(FileKind::tryFrom($kind->value))
        ->toBe($kind)
        ->and($kind->label())
        ->not->toBe('');
})->with([
    ["PK\x03\x04".str_repeat("\0", 26).'mimetypeapplication/vnd.oasis.opendocument.textPK', 'x.bin', FileKind::OpenText],
    ["PK\x03\x04".str_repeat("\0", 26).'mimetypeapplication/vnd.oasis.opendocument.spreadsheetPK', 'x', FileKind::OpenSheet],
    ["PK\x03\x04rest", 'b.xlsx', FileKind::Workbook],
    ["PK\x03\x04rest", 'b.PPTX', FileKind::Slides],
    ["PK\x03\x04rest", 'b.zip', FileKind::Other],
    ["From a@b.example Sat Jan  3 01:05:34 1996\nFrom: a@b.example\nSubject: x\n", 'box', FileKind::Mailbox],
    ["From the lock keeper, in 1996\nwe heard", 'letter.txt', FileKind::Text],
    ["From: a@b.example\nSubject: x\n\nbody", 'x', FileKind::Mail],
]);

it('takes the messages of a mailbox apart as another program put them together', function () {
    $file = tempnam(sys_get_temp_dir(), 'mbox');
    $python = <<<'PY'
    import mailbox, sys
    box = mailbox.mbox(sys.argv[1])
    for i in range(3):
        message = mailbox.mboxMessage()
        message['Subject'] = 'Message %d' % i
        message['From'] = 'a%d@tarnwick.example' % i
        message.set_payload('Dear all,\n\nFrom here on the lock is closed.\n\nFrom there too %d.\n' % i)
        box.add(message)
    box.flush()
    PY;
    exec('python3 -c '.escapeshellarg($python).' '.escapeshellarg($file), $output, $failed);
    expect($failed)->toBe(0);
    $stream = fopen($file, 'rb');
    $messages = iterator_to_array(Mailbox::messages($stream, 10_000), false);
    expect($messages)->toHaveCount(3);
    foreach ($messages as $i => $message) {
        expect($message)
            ->toContain("Subject: Message {$i}")
            ->toContain("\nFrom here on the lock is closed.")
            ->toContain("\nFrom there too {$i}.");
    }
    rewind($stream);
    expect(iterator_to_array(Mailbox::messages($stream, 20), false))
        ->toBe([null, null, null])
        ->and(Mailbox::is((string) file_get_contents($file, length: 400)))
        ->toBeTrue();
    unlink($file);
});

it('reads each text box once, tables cell by cell, and shared strings without how they are pronounced', function () {
    $w = 'xmlns:w="urn:w" xmlns:mc="urn:mc"';
    expect(
        OfficeText::paragraphs(
            "<w:document {$w}><w:p><w:r><w:t>One </w:t></w:r><w:r><w:t>two</w:t><w:tab/><w:delText>gone</w:delText><w:instrText>CODE</w:instrText></w:r></w:p><w:p><mc:AlternateContent><mc:Choice><w:t>Box</w:t></mc:Choice><mc:Fallback><w:t>Box</w:t></mc:Fallback></mc:AlternateContent></w:p><w:tbl><w:tr><w:tc><w:p><w:t>a</w:t></w:p></w:tc><w:tc><w:p><w:t>b</w:t></w:p></w:tc></w:tr></w:tbl></w:document>",
        ),
    )
        ->toBe("One two\t\nBox\na\tb")
        ->and(
            OfficeText::sharedStrings(
                '<sst xmlns="urn:s"><si><t>漢字</t><rPh sb="0" eb="2"><t>かんじ</t></rPh></si><si><r><t>a</t></r><r><t>b</t></r></si></sst>',
            ),
        )
        ->toBe(['漢字', 'ab'])
        ->and(
            OfficeText::dateStyles(
                '<styleSheet xmlns="urn:s"><numFmts><numFmt numFmtId="164" formatCode="d\\.m\\.yyyy"/><numFmt numFmtId="165" formatCode="0.00 &quot;days&quot;"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="164"/><xf numFmtId="165"/></cellXfs></styleSheet>',
            ),
        )
        ->toBe([false, true, true, false])
        ->and(
            OfficeText::sheet(
                '<worksheet xmlns="urn:s"><sheetData><row><c t="s"><v>1</v></c><c s="1"><v>45000</v></c><c><v>1.5</v></c><c t="b"><v>1</v></c><c t="inlineStr"><is><t>in</t></is></c></row><row/></sheetData></worksheet>',
                ['x', 'shared'],
                [false, true],
            ),
        )
        ->toBe("shared\t2023-03-15\t1.5\tTRUE\tin");
    expect(fn () => OfficeText::paragraphs('<!DOCTYPE a [<!ENTITY x "y">]><a>&x;</a>'))->toThrow(UnreadableFile::class, 'entities');
});

it('makes a word of what a hyphen carries over, and keeps its parts', function () {
    [$text, $parts] = LineBreaks::joined("The inspec-\ntor of the well-\nknown lock-\nGate, in 1990-\n91 and a dash -\nhere.");
    expect($text)
        ->toBe("The inspector of the wellknown lock-\nGate, in 1990-\n91 and a dash -\nhere.")
        ->and($parts)
        ->toBe("inspec-tor\n\nwell-known");
    $marked = static fn (string $words, string $in): string => implode(
        '',
        array_map(
            static fn (array $p): string => $p[1] ? "[{$p[0]}]" : $p[0],
            HitFinder::forText(Ledger::of(PlainQuery::parse($words)->root))->pieces($in),
        ),
    );
    expect($marked('inspector', "an inspec-\ntor here, inspector"))
        ->toBe("an [inspec-\ntor] here, [inspector]")
        ->and($marked('"an inspector here"', "an inspec-\ntor here"))
        ->toBe("[an inspec-\ntor here]")
        ->and($marked('known', "a well-\nknown lock"))
        ->toBe("a well-\n[known] lock");
});

it('tells what of a text is on no drawn page', function () {
    $pages = [new TextPage(595, 842, "Inspec-\ntion of the ﬁrst gate 1,204.50"), new TextPage(595, 842, 'Foot of 14 March')];
    expect(BesidePages::of("Inspection of the first gate\n1204.5 of 2024-03-14\nAsk the lockkeeper\nfoot\n", $pages))
        ->toBe('Ask the lockkeeper')
        ->and(BesidePages::of('', $pages))
        ->toBe('')
        ->and(BesidePages::of("Ask\n\nGate", []))
        ->toBe("Ask\nGate");
});

it('tells pictures of telephones, mails and older office files by how they begin', function (string $head, string $name, FileKind $kind) {
    expect(FileKind::detect($head, $name))->toBe($kind);
})->with([
    ["\0\0\0\x1cftypheic\0\0\0\0mif1", 'x', FileKind::Image],
    ["\0\0\0\x1cftypmif1\0\0\0\0", 'x.jpg', FileKind::Image],
    ["\0\0\0\x1cftypisom\0\0\0\0", 'film.mp4', FileKind::Other],
    ["\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1\0\0", 'a.MSG', FileKind::Message],
    ["\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1\0\0", 'a.xls', FileKind::OldOffice],
    ["\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1\0\0", 'thumbs.db', FileKind::Other],
    ["\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1\0\0", 'locked.docx', FileKind::Word],
]);
