<?php

declare(strict_types=1);

use App\Annotations\AnnotatedPdf;
use App\Support\ExternalProgram;
use Brenvic\Core\Pages\AnnotationKind;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\File;

/** A PDF of pages that share most of their words, so that only the page tells them apart. */
function alikePdf(int $pages): string
{
    $pdf = new TCPDF('P', 'pt', 'A4');
    $pdf->setPrintHeader(false);
    $pdf->setPrintFooter(false);
    $pdf->setFont('helvetica', '', 12);
    for ($page = 1; $page <= $pages; $page++) {
        $pdf->AddPage();
        $pdf->Text(60, 60 + 30 * $page, 'The gate leaks at the sill.');
        $pdf->Text(60, 320, 'The gate leaks at the sill.');
    }

    return $pdf->Output('', 'S');
}

/** A PDF whose second page is turned, with lines of text. */
function linedPdf(array $lines, string $extra = ''): string
{
    $pdf = new TCPDF('P', 'pt', 'A4');
    $pdf->setPrintHeader(false);
    $pdf->setPrintFooter(false);
    $pdf->setFont('helvetica', '', 12);
    $pdf->AddPage();
    foreach ($extra === '' ? $lines : [$extra, ...$lines] as $i => $line) {
        $pdf->Text(60, 60 + 24 * $i, $line);
    }
    $pdf->AddPage('P', ['Rotate' => 90]);
    $pdf->Text(60, 60, 'Turned page');

    return $pdf->Output('', 'S');
}

beforeEach(function () {
    $this->brought = function (string $contents, string $name = 'report.pdf'): string {
        $this->as('clerk');
        $ref = $this->post(
            '/api/intake',
            ['library' => 'waterways', 'file' => UploadedFile::fake()->createWithContent($name, $contents)],
            ['Accept' => 'application/json'],
        )
            ->assertCreated()
            ->json('ref');
        $this->postJson('/api/intake/file', [
            'documents' => [$ref],
            'type' => 'stoppage_notice',
            'values' => ['waterway' => ['tarn-sea'], 'document_date' => ['2024']],
        ])->assertOk();

        return $ref;
    };
    $this->box = fn (string $ref, string $word): array => $this->getJson("/api/documents/{$ref}/pages/1?words={$word}")->json('boxes.0.0');
});

it('keeps highlights, notes, stamps and strokes over a page, each its owner’s to change', function () {
    $ref = ($this->brought)(linedPdf(['The gate leaks at the sill.']));
    $this->as('reader');
    $make = fn (array $given) => $this->postJson("/api/documents/{$ref}/annotations", ['page' => 1, ...$given]);
    $highlight = $make([
        'kind' => 'highlight',
        'words' => true,
        'boxes' => [($this->box)($ref, 'sill')],
        'text' => 'Here',
    ])->assertCreated();
    expect($highlight->json('exact'))->toStartWith('sill')->and($highlight->json('own'))->toBeTrue();
    $note = $make(['kind' => 'note', 'boxes' => [[300, 100, 460, 180]], 'text' => 'Ask the lock keeper', 'private' => true])
        ->assertCreated()
        ->json();
    $make(['kind' => 'pen', 'strokes' => [[[10, 10], [20, 30]]]])->assertCreated();
    $make(['kind' => 'highlight', 'words' => true, 'boxes' => [[500, 700, 520, 720]]])->assertUnprocessable();
    $make(['kind' => 'scribble'])->assertUnprocessable();
    $make(['kind' => 'note', 'page' => 9, 'boxes' => [[1, 1, 2, 2]]])->assertUnprocessable();

    $answer = $this->getJson("/api/documents/{$ref}/annotations")->json();
    expect(array_column($answer['annotations'], 'kind'))
        ->toBe(['highlight', 'note', 'pen'])
        ->and($answer['stamps'][0])
        ->toStartWith('Received ')
        ->toEndWith(', Isla Thorne');
    $theirs = $this->as('clerk')
        ->getJson("/api/documents/{$ref}/annotations")
        ->json('annotations');
    expect(array_column($theirs, 'kind'))
        ->toBe(['highlight', 'pen'])
        ->and($theirs[0]['own'])
        ->toBeFalse()
        ->and($theirs[0]['by'])
        ->toBe('Isla Thorne');
    $this->putJson("/api/documents/{$ref}/annotations/{$theirs[0]['id']}", ['text' => 'Mine', 'lock_version' => 1])->assertUnprocessable();
    $this->deleteJson("/api/documents/{$ref}/annotations/{$theirs[0]['id']}")->assertUnprocessable();

    $change = ['boxes' => [[310, 110, 500, 200]], 'text' => 'Ask both', 'folded' => true, 'lock_version' => 1];
    $this->as('reader')
        ->putJson("/api/documents/{$ref}/annotations/{$note['id']}", $change)
        ->assertOk()
        ->assertJsonPath('lock_version', 2)
        ->assertJsonPath('folded', true)
        ->assertJsonPath('boxes.0.0', 310);
    $this->putJson("/api/documents/{$ref}/annotations/{$note['id']}", $change)
        ->assertConflict()
        ->assertJsonPath('error.current.text', 'Ask both');
    $this->deleteJson("/api/documents/{$ref}/annotations/{$note['id']}")->assertNoContent();
    expect(array_column($this->getJson("/api/documents/{$ref}/annotations")->json('annotations'), 'kind'))->toBe(['highlight', 'pen']);
    $this->postJson("/api/documents/{$ref}/annotations/{$note['id']}/restore")
        ->assertOk()
        ->assertJsonPath('text', 'Ask both');
});

it('puts annotations back where their words are in a new version, and says which have lost theirs', function () {
    $ref = ($this->brought)(linedPdf(['The gate leaks at the sill.', 'Nothing else was seen.']));
    $this->as('clerk');
    $before = ($this->box)($ref, 'sill');
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'highlight',
        'words' => true,
        'boxes' => [$before],
    ])->assertCreated();
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'highlight',
        'words' => true,
        'boxes' => [($this->box)($ref, 'Nothing')],
    ])->assertCreated();
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'note',
        'boxes' => [[$before[0], $before[1], $before[0] + 100, $before[1] + 50]],
        'text' => 'by the sill',
    ])->assertCreated();
    $this->postJson("/api/documents/{$ref}/check-out")->assertOk();
    $this->post(
        "/api/documents/{$ref}/check-in",
        [
            'file' => UploadedFile::fake()->createWithContent(
                'report.pdf',
                linedPdf(['The gate leaks at the sill.'], 'A line before all others.'),
            ),
        ],
        ['Accept' => 'application/json'],
    )->assertOk();
    $now = ($this->box)($ref, 'sill');
    expect(abs($now[1] - $before[1] - 24))->toBeLessThan(0.5);
    [$highlight, $gone, $note] = $this->getJson("/api/documents/{$ref}/annotations")->json('annotations');
    expect($highlight['lost'])
        ->toBeFalse()
        ->and(abs($highlight['boxes'][0][1] - $now[1]))
        ->toBeLessThan(0.5)
        ->and($gone['lost'])
        ->toBeTrue()
        ->and($gone['exact'])
        ->toBe('Nothing')
        ->and($note['lost'])
        ->toBeFalse()
        ->and(abs($note['boxes'][0][1] - $before[1] - 24))
        ->toBeLessThan(0.5);
});

it('lays notes, stamps and strokes over a text by its words, and keeps them there in a new version', function () {
    $ref = ($this->brought)("The sill of the lock leaks.\nThe gate holds.", 'report.txt');
    $this->as('clerk')
        ->postJson("/api/documents/{$ref}/annotations", ['page' => 1, 'kind' => 'note', 'boxes' => [[0, 0, 100, 50]], 'text' => 'Where?'])
        ->assertUnprocessable();
    $made = $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'note',
        'boxes' => [[12, -30, 212, 78]],
        'start' => 4,
        'length' => 4,
        'text' => 'Seen',
    ])->assertCreated();
    expect($made->json('exact'))
        ->toBe('sill')
        ->and($made->json('boxes.0'))
        ->toEqual([12, -30, 212, 78]);
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'pen',
        'strokes' => [[[0, 18], [40, 20]]],
        'start' => 32,
        'length' => 4,
    ])
        ->assertCreated()
        ->assertJsonPath('exact', 'gate');
    $moved = $this->putJson("/api/documents/{$ref}/annotations/{$made->json('id')}", [
        'lock_version' => 1,
        'boxes' => [[0, 20, 200, 90]],
        'start' => 21,
        'length' => 5,
    ])->assertOk();
    expect($moved->json('exact'))->toBe('leaks')->and($moved->json('text'))->toBe('Seen');
    $this->putJson("/api/documents/{$ref}/annotations/{$made->json('id')}", ['lock_version' => 2, 'folded' => true])
        ->assertOk()
        ->assertJsonPath('exact', 'leaks');
    $this->postJson("/api/documents/{$ref}/check-out")->assertOk();
    $this->post(
        "/api/documents/{$ref}/check-in",
        ['file' => UploadedFile::fake()->createWithContent('report.txt', 'In the year the sill of the lock leaks no more.')],
        ['Accept' => 'application/json'],
    )->assertOk();
    $now = collect($this->getJson("/api/documents/{$ref}/annotations")->json('annotations'));
    expect($now->firstWhere('kind', 'note'))
        ->toMatchArray(['start' => 33, 'exact' => 'leaks', 'lost' => false, 'boxes' => [[0, 20, 200, 90]]])
        ->and($now->firstWhere('kind', 'pen')['lost'])
        ->toBeTrue();
});

it('delivers a PDF with annotations of its own, and takes such in', function () {
    $ref = ($this->brought)(linedPdf(['The gate leaks at the sill.']));
    $this->as('clerk');
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'highlight',
        'words' => true,
        'boxes' => [($this->box)($ref, 'sill')],
        'text' => 'Zoë: here',
    ])->assertCreated();
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 2,
        'kind' => 'stamp',
        'boxes' => [[100, 100, 260, 130]],
        'text' => 'Received (1 Mar)',
    ])->assertCreated();
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'pen',
        'strokes' => [[[10, 10], [20, 30.5]]],
    ])->assertCreated();
    $this->postJson("/api/documents/{$ref}/annotations", [
        'page' => 1,
        'kind' => 'note',
        'boxes' => [[10, 10, 20, 30]],
        'text' => 'for me',
        'private' => true,
    ])->assertCreated();
    $file = $this->get("/api/documents/{$ref}/file?form=annotated&download=1")->assertOk();
    expect($file->headers->get('Content-Disposition'))->toContain('annotated');
    $folder = ExternalProgram::folder();
    copy($file->baseResponse->getFile()->getPathname(), "{$folder}/out.pdf");
    $read = AnnotatedPdf::read("{$folder}/out.pdf", $folder);
    expect(array_map(static fn ($o) => $o->kind, $read[1]))
        ->toBe([AnnotationKind::Highlight, AnnotationKind::Pen])
        ->and($read[1][0]->text)
        ->toBe('Zoë: here')
        ->and($read[1][0]->author)
        ->toBe('Fenwick Dale')
        ->and($read[2][0]->text)
        ->toBe('Received (1 Mar)')
        ->and(array_map(round(...), $read[2][0]->boxes[0]->edges()))
        ->toBe([100.0, 100.0, 260.0, 130.0]);
    // What went out comes in again as it was, once.
    $again = ($this->brought)((string) file_get_contents("{$folder}/out.pdf"), 'again.pdf');
    File::deleteDirectory($folder);
    $this->as('reader')
        ->postJson("/api/documents/{$again}/annotations/take-in")
        ->assertOk()
        ->assertJsonPath('taken', 3);
    $this->postJson("/api/documents/{$again}/annotations/take-in")
        ->assertOk()
        ->assertJsonPath('taken', 0);
    expect($this->getJson("/api/documents/{$again}/annotations")->json('annotations.0.text'))->toBe("Zoë: here\n(Fenwick Dale)");
    // What cannot carry annotations leaves without, and says so.
    $text = $this->filed('Plain words', 'a.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $this->postJson("/api/documents/{$text}/annotations", ['page' => 1, 'kind' => 'highlight', 'start' => 0, 'length' => 5])
        ->assertCreated()
        ->assertJsonPath('exact', 'Plain');
    $this->postJson("/api/documents/{$text}/annotations/take-in")->assertUnprocessable();
    $list = $this->as('clerk')
        ->postJson('/api/lists', ['name' => 'L'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref, $text]])->assertOk();
    $delivery = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'zip', 'form' => 'annotated'])
        ->assertCreated()
        ->json('id');
    expect(array_column($this->getJson("/api/deliveries/{$delivery}")->json('contents'), 'remark'))->toBe([
        '',
        'This kind of file cannot carry annotations; it is delivered without them.',
    ]);
});

it('says nothing of what was removed in the annotations of a redacted copy', function () {
    $ref = ($this->brought)(linedPdf(['By Osric Vane at the sill.']));
    $this->as('librarian')
        ->postJson("/api/documents/{$ref}/annotations", [
            'page' => 1,
            'kind' => 'note',
            'boxes' => [[300, 100, 460, 180]],
            'text' => 'Osric Vane saw the sill',
        ])
        ->assertCreated();
    $places = $this->postJson("/api/documents/{$ref}/redactions/find", ['words' => ['osric vane']])->json('places');
    $this->postJson("/api/documents/{$ref}/redactions", ['version' => 1, 'reason' => 'personal', 'marks' => $places])->assertOk();
    $folder = ExternalProgram::folder();
    copy(
        $this->get("/api/documents/{$ref}/file?form=both")
            ->assertOk()
            ->baseResponse->getFile()
            ->getPathname(),
        "{$folder}/out.pdf",
    );
    expect(AnnotatedPdf::read("{$folder}/out.pdf", $folder)[1][0]->text)
        ->toBe('████ saw the sill')
        ->and((string) file_get_contents("{$folder}/out.pdf"))
        ->not->toContain('Osric');
    File::deleteDirectory($folder);
    expect(
        $this->as('reader')
            ->getJson("/api/documents/{$ref}/annotations")
            ->json('annotations'),
    )->toBe([]);
});

it('puts marks where they are seen, whatever boxes and turns a page has, its own or from above', function (string $change) {
    $folder = ExternalProgram::folder();
    file_put_contents("{$folder}/plain.pdf", linedPdf(['The gate leaks at the sill.']));
    exec("qpdf --qdf --object-streams=disable {$folder}/plain.pdf {$folder}/lines.pdf");
    $lines = (string) file_get_contents("{$folder}/lines.pdf");
    // Boxes and turns of pages go, and stand with the node above them instead.
    $lines = (string) preg_replace('~^  /(?:MediaBox|CropBox|BleedBox|TrimBox|ArtBox) \[.*?\]\n|^  /Rotate \d+\n~ms', '', $lines);
    // The size of a unit is the page's own.
    $change = (string) preg_replace_callback('~^  /UserUnit .*\n~m', function (array $unit) use (&$lines): string {
        $lines = (string) preg_replace('~  /Type /Page\n~', "{$unit[0]}  /Type /Page\n", $lines);

        return '';
    }, $change);
    $lines = (string) preg_replace('~  /Kids \[~', "{$change}\n  /Kids [", $lines, 1);
    file_put_contents("{$folder}/changed.pdf", $lines);
    exec("qpdf --warning-exit-0 {$folder}/changed.pdf {$folder}/source.pdf 2>/dev/null");
    $extractor = app(App\Capture\Extractor::class);
    [$sha256] = app(App\Files\FileStore::class)->take("{$folder}/source.pdf");
    $page = $extractor->extract($sha256, Brenvic\Core\Capture\FileKind::Pdf)->pages[0];
    $word = array_values(
        array_filter($page->words, static fn ($w): bool => str_starts_with(substr($page->text, $w->offset, $w->length), 'sill')),
    )[0];
    $overlay = new Brenvic\Core\Pages\Overlay(
        AnnotationKind::Highlight,
        [new Brenvic\Core\Pages\Box($word->left, $word->top, $word->right, $word->bottom)],
        [],
        'x',
    );
    AnnotatedPdf::write("{$folder}/source.pdf", [1 => [$overlay]], $folder);
    $drawn = static function (string $name) use ($folder): GdImage {
        exec("pdftoppm -q -cropbox -r 72 -l 1 -png -singlefile {$folder}/{$name}.pdf {$folder}/{$name}");

        return imagecreatefrompng("{$folder}/{$name}.png") ?: throw new RuntimeException('not drawn');
    };
    [$before, $after] = [$drawn('source'), $drawn('annotated')];
    [$xs, $ys] = [[], []];
    for ($y = 0; $y < imagesy($before); $y++) {
        for ($x = 0; $x < imagesx($before); $x++) {
            if (imagecolorat($before, $x, $y) !== imagecolorat($after, $x, $y)) {
                [$xs[], $ys[]] = [$x, $y];
            }
        }
    }
    File::deleteDirectory($folder);
    expect($xs)
        ->not->toBe([])
        ->and(abs(min($xs) - $word->left))
        ->toBeLessThan(2.5)
        ->and(abs(max($xs) + 1 - $word->right))
        ->toBeLessThan(2.5)
        ->and(abs(min($ys) - $word->top))
        ->toBeLessThan(2.5)
        ->and(abs(max($ys) + 1 - $word->bottom))
        ->toBeLessThan(2.5)
        ->and([(int) round($page->width), (int) round($page->height)])
        ->toBe([imagesx($before), imagesy($before)]);
})->with([
    'a sheet' => '  /MediaBox [ 0 0 595 842 ]',
    'a sheet that begins elsewhere' => '  /MediaBox [ -20 30 575 872 ]',
    'a cropped sheet' => "  /MediaBox [ 0 0 595 842 ]\n  /CropBox [ 15 40 500 830 ]",
    'a crop beyond the sheet' => "  /MediaBox [ 0 0 595 842 ]\n  /CropBox [ -50 -50 500 900 ]",
    'turned' => "  /MediaBox [ 0 0 595 842 ]\n  /CropBox [ 15 40 500 830 ]\n  /Rotate 90",
    'upside down' => "  /MediaBox [ 0 0 595 842 ]\n  /Rotate 180",
    'in units of a thirty-sixth of an inch' => "  /UserUnit 2\n  /MediaBox [ 0 0 595 842 ]\n  /CropBox [ 15 40 500 830 ]",
]);

it('moves marks with the pages that page work moves, turns, doubles and takes out, and back', function () {
    $ref = ($this->brought)(alikePdf(4));
    $boxes = fn (int $page): array => array_column(
        $this->as('clerk')
            ->getJson("/api/documents/{$ref}/pages/{$page}?words=sill")
            ->json('boxes'),
        0,
    );
    $this->as('clerk');
    $made = [];
    foreach ([1, 2, 3] as $page) {
        $sill = $boxes($page)[0];
        foreach (
            [
                ['kind' => 'highlight', 'words' => true, 'boxes' => [$sill]],
                ['kind' => 'highlight', 'boxes' => [[$sill[0] - 20, $sill[1] - 20, $sill[2] + 20, $sill[3] + 60]]],
                [
                    'kind' => 'note',
                    'boxes' => [[$sill[0], $sill[1], $sill[0] + 120, $sill[1] + 60]],
                    'text' => "of {$page}",
                    'private' => true,
                ],
                ['kind' => 'stamp', 'boxes' => [[$sill[0], $sill[1], $sill[0] + 90, $sill[1] + 20]], 'text' => "Seen {$page}"],
                ['kind' => 'pen', 'strokes' => [[[$sill[0], $sill[1]], [$sill[2], $sill[3]]]]],
            ] as $mark
        ) {
            $made[] = $this->postJson("/api/documents/{$ref}/annotations", ['page' => $page, ...$mark])
                ->assertCreated()
                ->json('id');
        }
    }
    $all = fn (): array => collect(
        $this->as('clerk')
            ->getJson("/api/documents/{$ref}/annotations")
            ->json('annotations'),
    )
        ->keyBy('id')
        ->all();
    $places = fn (): array => array_map(
        static fn (array $a): array => array_intersect_key($a, array_flip(['page', 'boxes', 'strokes', 'start', 'length', 'lost'])),
        $all(),
    );
    $first = $places();
    $arrange = fn (array $pages, int $version) => $this->as('clerk')
        ->post(
            "/api/documents/{$ref}/pages",
            [
                'version' => $version,
                'note' => 'x',
                'pages' => json_encode(array_map(static fn (array $p): array => ['source' => '', 'page' => $p[0], 'turn' => $p[1]], $pages)),
            ],
            ['Accept' => 'application/json'],
        )
        ->assertOk();

    // The third page first and turned, the second out, the first last and upside down, the fourth twice.
    $arrange([[3, 90], [4, 0], [4, 0], [1, 180]], 1);
    $now = $all();
    foreach (array_chunk($made, 5) as $i => $ids) {
        [$page, $new] = [[1, 4], [2, 0], [3, 1]][$i];
        if ($new === 0) {
            expect(array_column(array_intersect_key($now, array_flip($ids)), 'lost'))->toBe([true, true, true, true, true]);

            continue;
        }
        [$words, $area, $note, $stamp, $pen] = array_map(static fn (int $id): array => $now[$id], $ids);
        // Where poppler finds the word on the page that was made.
        $sill = $boxes($new)[0];
        foreach ([0, 1, 2, 3] as $edge) {
            expect(abs($words['boxes'][0][$edge] - $sill[$edge]))->toBeLessThan(1.5);
        }
        expect(array_unique(array_column([$words, $area, $note, $stamp, $pen], 'page')))
            ->toBe([$new])
            ->and(array_unique(array_column([$words, $area, $note, $stamp, $pen], 'lost')))
            ->toBe([false])
            ->and($area['boxes'])
            ->toHaveCount(1)
            ->and($area['boxes'][0][2] - $area['boxes'][0][0])
            ->toBeGreaterThan(40)
            ->and($note['text'])
            ->toBe("of {$page}")
            ->and(
                array_map(static fn (array $box): array => [round($box[2] - $box[0]), round($box[3] - $box[1])], [
                    $note['boxes'][0],
                    $stamp['boxes'][0],
                ]),
            )
            ->toBe($new === 4 ? [[120.0, 60.0], [90.0, 20.0]] : [[60.0, 120.0], [20.0, 90.0]])
            ->and(abs($pen['strokes'][0][0][0] - ($new === 4 ? $sill[2] : $sill[2])))
            ->toBeLessThan(1.5);
    }

    // Turned back and in order again: exactly where they were; the page that is gone is gone.
    $arrange([[4, 180], [2, 0], [1, 270]], 2);
    foreach (array_chunk($made, 5) as $i => $ids) {
        foreach ($i === 1 ? [] : $ids as $id) {
            $a = $places()[$id];
            expect($a['page'])
                ->toBe($i === 0 ? 1 : 3)
                ->and($a['lost'])
                ->toBeFalse();
            foreach ([...$a['boxes'][0] ?? [], ...$a['strokes'][0][0] ?? []] as $k => $n) {
                expect(abs($n - [...$first[$id]['boxes'][0] ?? [], ...$first[$id]['strokes'][0][0] ?? []][$k]))->toBeLessThan(0.01);
            }
        }
    }
    // The first version again: all of them, to the last digit.
    $this->postJson("/api/documents/{$ref}/versions/1/make-current")->assertOk();
    expect($places())->toEqual($first);
});

it('lists marks for a person when their place is not sure in a file that came from elsewhere', function () {
    $ref = ($this->brought)(linedPdf(['The gate leaks at the sill.', 'Nothing else was seen.']));
    $this->as('clerk')
        ->postJson("/api/documents/{$ref}/annotations", [
            'page' => 1,
            'kind' => 'highlight',
            'words' => true,
            'boxes' => [($this->box)($ref, 'leaks')],
        ])
        ->assertCreated();
    $pen = $this->postJson("/api/documents/{$ref}/annotations", ['page' => 1, 'kind' => 'pen', 'strokes' => [[[60, 60], [90, 80]]]])
        ->assertCreated()
        ->json();
    $this->postJson("/api/documents/{$ref}/check-out")->assertOk();
    $this->post(
        "/api/documents/{$ref}/check-in",
        ['file' => UploadedFile::fake()->createWithContent('report.pdf', linedPdf(['It leaks.', 'The Oxbeck culvert leaks too.']))],
        ['Accept' => 'application/json'],
    )->assertOk();
    $now = $this->getJson("/api/documents/{$ref}/annotations")->json('annotations');
    expect(array_column($now, 'lost'))->toBe([true, true]);
    // Who made it puts it where it belongs.
    $this->putJson("/api/documents/{$ref}/annotations/{$pen['id']}", [
        'page' => 2,
        'strokes' => $pen['strokes'],
        'lock_version' => $now[1]['lock_version'],
    ])
        ->assertOk()
        ->assertJsonPath('page', 2)
        ->assertJsonPath('lost', false);
    $this->putJson("/api/documents/{$ref}/annotations/{$now[0]['id']}", [
        'page' => 9,
        'boxes' => $now[0]['boxes'],
        'lock_version' => $now[0]['lock_version'],
    ])->assertUnprocessable();
});

it('keeps a private mark from everybody else, in the history too, until it is shown', function () {
    $ref = $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $acts = fn (): array => array_column(
        $this->as('manager')
            ->getJson("/api/documents/{$ref}/history")
            ->json('history'),
        'act',
    );
    $mark = ['page' => 1, 'kind' => 'note', 'start' => 4, 'length' => 6, 'text' => 'Why?', 'private' => true];
    $id = $this->as('librarian')
        ->postJson("/api/documents/{$ref}/annotations", $mark)
        ->assertCreated()
        ->json('id');
    expect($acts())->not->toContain('annotated');
    foreach (['put', 'delete'] as $method) {
        $this->as('clerk')
            ->json($method, "/api/documents/{$ref}/annotations/{$id}", ['text' => 'x', 'lock_version' => 1])
            ->assertNotFound();
    }
    $this->postJson("/api/documents/{$ref}/annotations/{$id}/restore")->assertNotFound();
    $this->as('librarian')
        ->putJson("/api/documents/{$ref}/annotations/{$id}", ['private' => false, 'lock_version' => 1])
        ->assertOk();
    expect($acts())->toContain('annotated');
    $this->as('clerk')
        ->putJson("/api/documents/{$ref}/annotations/{$id}", ['text' => 'x', 'lock_version' => 2])
        ->assertUnprocessable();
});
