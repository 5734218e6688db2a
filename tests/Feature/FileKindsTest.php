<?php

declare(strict_types=1);

use App\Models\Document;
use App\Support\ExternalProgram;
use Illuminate\Support\Facades\DB;

/** A JPEG with a line of large letters, held as EXIF says. */
function photograph(string $line, int $orientation): string
{
    $image = imagecreatetruecolor(1_400, 300);
    imagefill($image, 0, 0, imagecolorallocate($image, 255, 255, 255));
    imagettftext($image, 70, 0, 60, 180, imagecolorallocate($image, 0, 0, 0), '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf', $line);
    // What the camera would have stored for the picture to be seen upright.
    $stored = match ($orientation) {
        6 => imagerotate($image, 90, 0),
        8 => imagerotate($image, 270, 0),
        3 => imagerotate($image, 180, 0),
        default => $image,
    };
    ob_start();
    imagejpeg($stored, null, 90);
    $jpeg = (string) ob_get_clean();
    $exif = "Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0".chr($orientation)."\0\0\0\0\0\0";

    return substr($jpeg, 0, 2)."\xFF\xE1".pack('n', strlen($exif) + 2).$exif.substr($jpeg, 2);
}

/** The bytes of an office file with some parts. */
function officeFile(array $parts): string
{
    $path = tempnam(sys_get_temp_dir(), 'office');
    $zip = new ZipArchive();
    $zip->open($path, ZipArchive::OVERWRITE);
    foreach ($parts as $name => $contents) {
        $zip->addFromString($name, $contents);
    }
    $zip->close();
    $bytes = (string) file_get_contents($path);
    unlink($path);

    return $bytes;
}

/** A document that was brought in, its text read. */
function broughtIn(Tests\TestCase $test, string $contents, string $name): Document
{
    $ref = $test->upload($contents, $name)->assertCreated()->json('ref');

    return Document::query()->where('ref', $ref)->firstOrFail();
}

function textOf(Document $document): string
{
    return DB::table('pages')->where('document_id', $document->id)->orderBy('number')->pluck('text')->implode("\n");
}

it('reads texts in the encodings of other days and says when it is a guess', function (string $encoding) {
    $text = str_repeat("Осмотр шлюза показал просачивание воды у порога. Ворота требуют ремонта до начала навигации.\n", 12);
    $document = broughtIn($this, (string) iconv('UTF-8', $encoding, $text), 'report.txt');
    expect(textOf($document))
        ->toContain('просачивание воды')
        ->and($document->text_reason)
        ->toContain('does not say how its letters are encoded');
})->with(['KOI8-R', 'WINDOWS-1251', 'ISO-8859-5']);

it('reads Japanese that no mark announces', function () {
    $text = str_repeat("水門の点検で敷居の近くに漏水が見つかった。修理は来週に行う予定である。\n", 12);
    foreach (['CP932', 'EUC-JP'] as $encoding) {
        expect(textOf(broughtIn($this, (string) iconv('UTF-8', $encoding, $text), 'report.txt')))->toContain('漏水が見つかった');
    }
});

it('reads notes, comments, heads, feet and boxes of a Word document', function () {
    $part = static fn (
        string $name,
        string $text,
    ): string => "<w:{$name} xmlns:w=\"urn:w\"><w:p><w:r><w:t>{$text}</w:t></w:r></w:p></w:{$name}>";
    $document = broughtIn(
        $this,
        officeFile([
            '[Content_Types].xml' => '<Types/>',
            'word/document.xml' => $part('document', 'Body of the letter'),
            'word/footnotes.xml' => $part('footnotes', 'Small print'),
            'word/endnotes.xml' => $part('endnotes', 'At the end'),
            'word/comments.xml' => $part('comments', 'Please check'),
            'word/header1.xml' => $part('hdr', 'Head of page'),
            'word/header2.xml' => $part('hdr', 'Head of page'),
            'word/footer1.xml' => $part('ftr', 'Foot of page'),
            'word/other.xml' => $part('x', 'Nothing'),
        ]),
        'letter.docx',
    );
    expect(textOf($document))
        ->toStartWith('Body of the letter')
        ->toContain('Small print')
        ->toContain('At the end')
        ->toContain('Please check')
        ->toContain('Foot of page')
        ->not->toContain('Nothing')
        ->and(substr_count(textOf($document), 'Head of page'))
        ->toBe(1);
});

it('reads spreadsheets, slides and OpenDocument files', function () {
    $odf = static fn (
        string $body,
    ): string => '<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"><office:body>'.
        $body.
        '</office:body></office:document-content>';
    $book = broughtIn(
        $this,
        officeFile([
            'xl/workbook.xml' => '<workbook xmlns="urn:s" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Locks" r:id="r1"/></sheets></workbook>',
            'xl/_rels/workbook.xml.rels' => '<Relationships xmlns="urn:r"><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>',
            'xl/worksheets/sheet1.xml' => '<worksheet xmlns="urn:s"><sheetData><row><c t="inlineStr"><is><t>Sea lock</t></is></c><c><v>4.5</v></c></row></sheetData></worksheet>',
        ]),
        'locks.xlsx',
    );
    expect(textOf($book))->toBe("Locks\nSea lock\t4.5");
    $letter = broughtIn(
        $this,
        officeFile([
            'mimetype' => 'application/vnd.oasis.opendocument.text',
            'content.xml' => $odf(
                '<office:text><text:h>Heading</text:h><text:p>Two<text:s text:c="2"/>words<text:note><text:note-body><text:p>A note</text:p></text:note-body></text:note></text:p></office:text>',
            ),
        ]),
        'letter.odt',
    );
    expect(textOf($letter))->toContain("Heading\nTwo  words")->toContain('A note');
    $slides = broughtIn(
        $this,
        officeFile([
            'ppt/slides/slide2.xml' => '<s xmlns:a="urn:a"><a:p><a:r><a:t>Second</a:t></a:r></a:p></s>',
            'ppt/slides/slide10.xml' => '<s xmlns:a="urn:a"><a:p><a:t>Tenth</a:t></a:p></s>',
            'ppt/notesSlides/notesSlide1.xml' => '<s xmlns:a="urn:a"><a:p><a:t>Said aloud</a:t></a:p></s>',
        ]),
        'talk.pptx',
    );
    expect(textOf($slides))->toBe("Second\n\nTenth\n\nSaid aloud");
});

it('takes an office file that unpacks to too much, or is none, for unreadable and keeps it', function () {
    config(['brenvic.limits.expanded_bytes' => 2_000]);
    $large = broughtIn($this, officeFile(['word/document.xml' => '<d>'.str_repeat(' ', 3_000).'</d>']), 'a.docx');
    $many = broughtIn(
        $this,
        officeFile([
            'word/document.xml' => '<d>'.str_repeat(' ', 1_500).'</d>',
            'word/comments.xml' => '<d>'.str_repeat(' ', 1_500).'</d>',
        ]),
        'b.docx',
    );
    $none = broughtIn($this, officeFile(['x' => 'y']), 'c.xlsx');
    expect([$large->text_reason, $many->text_reason])
        ->each->toContain('more than the limit')
        ->and($none->text_reason)
        ->toContain('no text part');
});

it('makes a document of each message of a mailbox, called by its subject', function () {
    $box = '';
    foreach (['Tender for the sill', 'Re: Tender for the sill', '=?UTF-8?Q?Gr=C3=BC=C3=9Fe?='] as $i => $subject) {
        $box .= "From a{$i}@b.example Sat Jan  3 01:05:3{$i} 2026\nFrom: a{$i}@b.example\nTo: office@tarnwick.example\nSubject: {$subject}\nMessage-ID: <m{$i}@b.example>\n\nText number {$i}.\n>From here on.\n\n";
    }
    $mailbox = broughtIn($this, $box, 'archive.mbox');
    $messages = Document::query()->where('parent_id', $mailbox->id)->orderBy('id')->get();
    expect($mailbox->file_kind)
        ->toBe('mbox')
        ->and($messages->pluck('file_kind')->unique()->all())
        ->toBe(['mail'])
        ->and($messages->pluck('title')->all())
        ->toBe(['Tender for the sill', 'Re: Tender for the sill', 'Grüße'])
        ->and(textOf($messages[1]))
        ->toContain("Text number 1.\nFrom here on.");
});

it('calls a mail by its subject, unless somebody gave it a title', function () {
    $mail = "From: a@b.example\nTo: c@d.example\nSubject: Gate at the\n sea lock\n\nIt leaks.\n";
    expect(broughtIn($this, $mail, 'msg0001.eml')->title)
        ->toBe('Gate at the sea lock')
        ->and(broughtIn($this, "From: a@b.example\nSubject:\n\nx", 'msg0002.eml')->title)
        ->toBe('msg0002');
});

it('reads photographs as they are held', function (int $orientation) {
    $document = broughtIn($this, photograph('Seepage at the sill', $orientation), 'photo.jpg');
    $page = DB::table('pages')->where('document_id', $document->id)->first();
    expect(textOf($document))->toContain('Seepage')->and((float) $page->width)->toBe(1400.0)->and((float) $page->height)->toBe(300.0);
})->with([1, 6, 8, 3]);

it('reads and shows every page of a TIFF', function () {
    $folder = sys_get_temp_dir().'/tiff-'.getmypid();
    mkdir($folder);
    $pdf = new FPDF('L', 'pt', [600, 200]);
    foreach (['First page of the scan', 'Second page of the scan', 'Third page of the scan'] as $line) {
        $pdf->AddPage();
        $pdf->SetFont('Helvetica', '', 36);
        $pdf->Text(40, 100, $line);
    }
    file_put_contents("{$folder}/s.pdf", $pdf->Output('S'));
    exec(
        'pdftoppm -tiff -r 150 '.
            escapeshellarg("{$folder}/s.pdf").
            " {$folder}/p && tiffcp {$folder}/p-1.tif {$folder}/p-2.tif {$folder}/p-3.tif {$folder}/all.tif",
    );
    $document = broughtIn($this, (string) file_get_contents("{$folder}/all.tif"), 'scan.tif');
    exec('rm -rf '.escapeshellarg($folder));
    expect($document->page_count)
        ->toBe(3)
        ->and(textOf($document))
        ->toContain('First page')
        ->toContain('Second page')
        ->toContain('Third page');
    $shown = $this->as('clerk')
        ->get("/api/documents/{$document->ref}/file?version=1&drawn=1")
        ->assertOk();
    expect($shown->headers->get('Content-Type'))
        ->toBe('application/pdf')
        ->and($shown->headers->get('Content-Security-Policy'))
        ->toBe('sandbox');
    $original = $this->get("/api/documents/{$document->ref}/file?version=1&download=1&drawn=1")->assertOk();
    expect($original->headers->get('Content-Type'))->toBe('image/tiff');
});

it('finds a word that the end of a line cuts, and its parts', function () {
    $pdf = new FPDF('P', 'pt', 'A4');
    $pdf->AddPage();
    $pdf->SetFont('Helvetica', '', 14);
    $pdf->MultiCell(0, 20, "The report of the inspec-\ntor names a well-\nknown fault.");
    $ref = $this->filed($pdf->Output('S'), 'cut.pdf', 'dredging_survey', [
        'document_date' => ['2019'],
        'waterway' => ['tarn-sea'],
        'silt_depth' => ['1'],
    ]);
    foreach (
        ['inspector' => 1, '"the inspector names"' => 1, 'text = "well known"' => 1, 'wellknown' => 1, '"inspectors"' => 0] as $words => $total
    ) {
        expect($this->search(['words' => $words])->json('total'))->toBe($total, $words);
    }
    $hits = $this->getJson("/api/documents/{$ref}/pages/1?".http_build_query(['words' => 'inspector']))->assertOk();
    expect($hits->json('boxes.0'))->toHaveCount(2);
});

it('says of an office file that is protected by a password that it is', function () {
    $document = broughtIn($this, "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1".str_repeat("\0", 600), 'contract.docx');
    expect($document->text_state)->toBe('none')->and($document->text_reason)->toContain('protected by a password');
});

it('reads HEIC pictures and shows them, where the machine can', function () {
    if (! is_executable('/usr/bin/heif-convert') || ! is_executable('/usr/bin/heif-enc')) {
        $this->markTestSkipped('There is no program on this machine that opens HEIC pictures.');
    }
    $heic = ExternalProgram::inFolder(static function (string $folder): string {
        file_put_contents("{$folder}/line.jpg", photograph('Sluice gate leaks', 1));
        ExternalProgram::run(['heif-enc', "{$folder}/line.jpg", '-o', "{$folder}/line.heic"], $folder);

        return (string) file_get_contents("{$folder}/line.heic");
    });
    // A telephone calls it as it likes.
    $document = broughtIn($this, $heic, 'IMG_0001.HEIC');
    expect($document->file_kind)->toBe('image')->and(textOf($document))->toContain('Sluice gate leaks');
    $this->get("/api/documents/{$document->ref}/file?drawn=1")->assertOk()->assertHeader('Content-Type', 'application/pdf');
    $this->get("/api/documents/{$document->ref}/file")->assertOk()->assertHeader('Content-Type', 'image/heic');
    $this->get("/api/documents/{$document->ref}/thumb")->assertOk();
    $broken = broughtIn($this, substr($heic, 0, 600), 'IMG_0002.HEIC');
    expect($broken->text_state)->toBe('none')->and($broken->text_reason)->toContain('damaged');
});

it('reads MSG mails with what is attached, where the machine can', function () {
    if (! is_executable('/usr/bin/msgconvert')) {
        $this->markTestSkipped('There is no program on this machine that opens MSG mails.');
    }
    $msg = ExternalProgram::inFolder(static function (string $folder): string {
        $script = dirname(__DIR__).'/fixtures/message.pl';
        ExternalProgram::run(
            ['perl', $script, "{$folder}/mail.msg", 'The sluice leaks – Grüße', 'It leaks at the sill.', 'plan.txt', 'A plan of the weir.'],
            $folder,
        );

        return (string) file_get_contents("{$folder}/mail.msg");
    });
    $document = broughtIn($this, $msg, 'mail.msg');
    expect($document->file_kind)
        ->toBe('msg')
        ->and($document->title)
        ->toBe('The sluice leaks – Grüße')
        ->and(textOf($document))
        ->toContain('It leaks at the sill.')
        ->toContain('ida@ash.example')
        ->and($document->exchange)
        ->not->toBeNull()
        ->and($document->attachments->pluck('file_name')->all())
        ->toBe(['plan.txt'])
        ->and(textOf($document->attachments->first()))
        ->toContain('A plan of the weir.');
    $broken = broughtIn($this, substr($msg, 0, 600), 'mail.msg');
    expect($broken->text_state)->toBe('none')->and($broken->text_reason)->toContain('damaged');
});
