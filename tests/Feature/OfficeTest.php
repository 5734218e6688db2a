<?php

declare(strict_types=1);

use App\Capture\DrawOffice;
use App\Files\FileStore;
use App\Files\OfficePages;
use App\Models\Document;
use App\Support\ExternalProgram;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

beforeEach(function () {
    config(['brenvic.office' => null]);
    if (! OfficePages::areDrawn()) {
        $this->markTestSkipped('There is no program on this machine that draws office files.');
    }
});

/** A file as the office program itself writes it. */
function officeOf(string $html, string $ending): string
{
    return ExternalProgram::inFolder(static function (string $folder) use ($html, $ending): string {
        $source = match (true) {
            str_starts_with($ending, 'xls'), $ending === 'ods' => 'source.csv',
            str_starts_with($ending, 'pp'), $ending === 'odp' => 'source.fodp',
            default => 'source.html',
        };
        file_put_contents("{$folder}/{$source}", $html);
        ExternalProgram::run(
            [
                'soffice',
                "-env:UserInstallation=file://{$folder}/p",
                '--headless',
                ...$source === 'source.html' ? ['--infilter=HTML (StarWriter)'] : [],
                '--convert-to',
                $ending,
                '--outdir',
                "{$folder}/out",
                "{$folder}/{$source}",
            ],
            $folder,
        );

        return (string) file_get_contents(glob("{$folder}/out/*")[0] ?? throw new RuntimeException("No {$ending}."));
    });
}

function letterOf(string $ending): string
{
    /** @var array<string, string> $made */
    static $made = [];

    return $made[$ending] ??= officeOf(
        '<h1>Inspection of Wend sluice</h1><p>The sill leaks where the second gate closes.</p>',
        $ending,
    );
}

/** The same document as it is now. */
function nowOf(string $ref): Document
{
    return Document::query()->where('ref', $ref)->firstOrFail();
}

it('shows office files as the pages that they are, with the words where they stand', function (string $ending) {
    $ref = arrived(letterOf($ending), "letter.{$ending}");
    $record = $this->as('clerk')->getJson("/api/documents/{$ref}")->assertOk()->json();
    expect($record['drawn_pages'])->toBe(1)->and($record['page_count'])->toBe(1)->and($record['text_state'])->toBe('read');
    $page = $this->getJson("/api/documents/{$ref}/pages/1?words=gate")->assertOk()->json();
    expect($page['width'])->toBeGreaterThan(400)->and($page['boxes'])->toHaveCount(1);
    $file = $this->get("/api/documents/{$ref}/file?drawn=1")->assertOk()->assertHeader('Content-Type', 'application/pdf');
    // Where the word is said to be, another program finds it.
    [$left, $top, $right, $bottom] = $page['boxes'][0][0];
    $found = ExternalProgram::inFolder(static function (string $folder) use ($file, $left, $top, $right, $bottom): string {
        $at = array_map(strval(...), [(int) $left - 1, (int) $top - 1, (int) ceil($right - $left) + 2, (int) ceil($bottom - $top) + 2]);

        return ExternalProgram::run(
            ['pdftotext', '-x', $at[0], '-y', $at[1], '-W', $at[2], '-H', $at[3], $file->baseResponse->getFile()->getPathname(), '-'],
            $folder,
        )[1];
    });
    expect(trim($found, " \n\f"))->toBe('gate');
    $this->get("/api/documents/{$ref}/thumb")->assertOk()->assertHeader('Content-Type', 'image/jpeg');
    // The file itself leaves as it came.
    expect($this->get("/api/documents/{$ref}/file?download=1")->assertOk()->headers->get('Content-Type'))->not->toBe('application/pdf');
})->with(['docx', 'doc']);

it('shows the sheets of a workbook, each on one page', function () {
    $rows = implode("\n", array_map(static fn (int $i): string => "Mooring {$i},Berth ".chr(64 + $i).',Rent due', range(1, 20)));
    $ref = arrived(officeOf("{$rows}\n", 'xlsx'), 'moorings.xlsx');
    expect(nowOf($ref)->drawn_pages)->toBe(1);
    $long = implode("\n", array_map(static fn (int $i): string => "Mooring {$i},Berth,Rent due", range(1, 400)));
    $ref = arrived(officeOf("{$long}\n", 'ods'), 'moorings.ods');
    // A sheet as long as a street is cut as it would be printed.
    expect(nowOf($ref)->drawn_pages)->toBeGreaterThan(3);
});

it('keeps what stands on no page behind the pages, to be found and read', function () {
    $zip = tempnam(sys_get_temp_dir(), 'letter');
    file_put_contents($zip, letterOf('odt'));
    $open = new ZipArchive();
    $open->open($zip);
    $content = (string) $open->getFromName('content.xml');
    $open->addFromString('content.xml', str_replace(
        'The sill leaks',
        '<office:annotation><dc:creator>Ida</dc:creator><text:p>Ask the lockkeeper about vegetation</text:p></office:annotation>The sill leaks',
        $content,
    ));
    $open->close();
    $ref = arrived((string) file_get_contents($zip), 'letter.odt');
    unlink($zip);
    $document = nowOf($ref);
    expect([$document->drawn_pages, $document->page_count])->toBe([1, 2]);
    $beside = $this->as('clerk')->getJson("/api/documents/{$ref}/pages/2")->assertOk()->json();
    expect($beside['width'])->toBe(0)->and($beside['pieces'][0][0])->toContain('vegetation')->not->toContain('sluice');
    // A copy without what is to be removed has the pages, and nothing else.
    $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
    ])->assertOk();
    $this->as('librarian')
        ->postJson("/api/documents/{$ref}/redactions", [
            'version' => 1,
            'reason' => 'personal',
            'marks' => [['page' => 1, 'areas' => [[40, 30, 550, 60]]], ['page' => 2, 'start' => 0, 'length' => 3]],
        ])
        ->assertOk();
    $copy = $this->get("/api/documents/{$ref}/file?form=redacted")->assertOk()->assertHeader('Content-Type', 'application/pdf');
    $text = ExternalProgram::inFolder(
        static fn (string $folder): string => ExternalProgram::run(['pdftotext', $copy->baseResponse->getFile()->getPathname(), '-'], $folder)[1],
    );
    expect($text)->toContain('second gate')->not->toContain('Inspection')->not->toContain('vegetation');
});

it('does not fetch what a file links to, from this machine or another', function () {
    $secret = tempnam(sys_get_temp_dir(), 'secret');
    file_put_contents($secret, 'Nobody may read this line');
    $picture = imagecreatetruecolor(50, 50);
    imagepng($picture, "{$secret}.png");
    $server = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('No server.');
    $at = stream_socket_get_name($server, false);
    $zip = tempnam(sys_get_temp_dir(), 'letter');
    file_put_contents($zip, letterOf('odt'));
    $open = new ZipArchive();
    $open->open($zip);
    $frame = static fn (string $link): string => '<text:p><draw:frame svg:width="4cm" svg:height="4cm">'.
        "<draw:image xlink:href=\"{$link}\" xlink:type=\"simple\" xlink:show=\"embed\" xlink:actuate=\"onLoad\"/></draw:frame></text:p>";
    $open->addFromString('content.xml', str_replace(
        '</office:text>',
        "<text:section text:name=\"S\"><text:section-source xlink:href=\"file://{$secret}\" xlink:type=\"simple\" text:filter-name=\"Text\"/>".
            "<text:p>As it was</text:p></text:section>{$frame("http://{$at}/seen.png")}{$frame("file://{$secret}.png")}</office:text>",
        (string) $open->getFromName('content.xml'),
    ));
    $open->close();
    $ref = arrived((string) file_get_contents($zip), 'letter.odt');
    $document = nowOf($ref);
    expect($document->drawn_pages)->toBe(1)
        ->and(DB::table('pages')->where('document_id', $document->id)->value('text'))->toContain('As it was')->not->toContain('Nobody');
    $pictures = ExternalProgram::inFolder(
        static fn (string $folder): string => ExternalProgram::run(
            ['pdfimages', '-list', app(FileStore::class)->drawing($document->sha256)],
            $folder,
        )[1],
    );
    expect(substr_count($pictures, "\n"))->toBe(2);
    expect(@stream_socket_accept($server, 0))->toBeFalse();
    array_map(unlink(...), [$secret, "{$secret}.png", $zip]);
});

it('puts the drawn pages into one PDF, and the file itself beside them', function () {
    $ref = $this->filed(letterOf('docx'), 'letter.docx', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    expect(nowOf($ref)->drawn_pages)->toBe(1);
    $list = $this->as('clerk')->postJson('/api/lists', ['name' => 'Letters'])->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref]])->assertOk();
    $delivery = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'pdf', 'names' => '{file}'])->assertCreated()->json('id');
    $pdf = config('brenvic.data')."/deliveries/{$delivery}.pdf";
    [$text, $attached] = ExternalProgram::inFolder(
        static fn (string $folder): array => [
            ExternalProgram::run(['pdftotext', '-f', '2', '-l', '2', $pdf, '-'], $folder)[1],
            ExternalProgram::run(['pdfdetach', '-list', $pdf], $folder)[1],
        ],
    );
    expect($text)->toStartWith('Inspection of Wend sluice')->and($attached)->toContain('letter.docx');
});

it('leaves a text that somebody marked as it is, and draws the next version at once', function () {
    Queue::fake([DrawOffice::class]);
    $ref = arrived(letterOf('docx'), 'letter.docx');
    $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
    ])->assertOk();
    $document = nowOf($ref);
    expect($document->drawn_pages)->toBeNull()->and($document->text_state)->toBe('read');
    // Nobody has it drawn by asking for it.
    expect($this->get("/api/documents/{$ref}/file?drawn=1")->assertOk()->headers->get('Content-Type'))->not->toBe('application/pdf');
    Queue::assertPushed(DrawOffice::class, static fn (DrawOffice $job): bool => $job->document === $document->id);
    $text = (string) DB::table('pages')->where('document_id', $document->id)->value('text');
    $this->as('librarian')->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'highlight',
        'start' => strpos($text, 'second gate'),
        'length' => 11,
    ])->assertCreated();
    app()->call([new DrawOffice($document->id), 'handle']);
    expect(nowOf($ref)->drawn_pages)->toBe(0);
    $this->postJson("/api/documents/{$ref}/check-out")->assertSuccessful();
    $next = officeOf('<h1>Inspection</h1><p>Nothing else.</p><p>It leaks where the second gate closes.</p>', 'docx');
    $this->post(
        "/api/documents/{$ref}/check-in",
        ['file' => Illuminate\Http\UploadedFile::fake()->createWithContent('letter.docx', $next), 'note' => 'Again'],
        ['Accept' => 'application/json'],
    )->assertSuccessful();
    $mark = $this->getJson("/api/documents/{$ref}/annotations")->assertOk()->json('annotations.0');
    expect(nowOf($ref)->drawn_pages)->toBe(1)->and($mark['boxes'])->not->toBeEmpty();
    // What the version before looked like is told by itself.
    expect($this->getJson("/api/documents/{$ref}?version=1")->assertOk()->json('drawn_pages'))->toBe(0);
});

it('has office files of before drawn when the machine gets the program, and each once', function () {
    Queue::fake([DrawOffice::class]);
    $ref = arrived(letterOf('docx'), 'letter.docx');
    $id = nowOf($ref)->id;
    DB::table('documents')->update(['updated_at' => now()->subDay()]);
    expect(DrawOffice::unfinished(now()))->toBe([$id]);
    config(['brenvic.office' => '']);
    expect(DrawOffice::unfinished(now()))->toBe([]);
    config(['brenvic.office' => null]);
    app()->call([new DrawOffice($id), 'handle']);
    expect(nowOf($ref)->drawn_pages)->toBe(1)->and(DrawOffice::unfinished(now()->addHour()))->toBe([]);
});

it('keeps a file that cannot be drawn as the text that it is', function () {
    $ref = arrived('{\\rtf1 The sill leaks. }', 'letter.rtf');
    expect(nowOf($ref)->drawn_pages)->toBe(1);
    config(['brenvic.office' => '/bin/false']);
    $ref = arrived('{\\rtf1 The gate leaks. }', 'letter.rtf');
    expect(nowOf($ref))->drawn_pages->toBe(0)->text_state->toBe('read');
    $ref = arrived("\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1".str_repeat('x', 600), 'letter.doc');
    expect(nowOf($ref))->text_state->toBe('none')->file_kind->toBe('office');
});
