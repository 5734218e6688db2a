<?php

declare(strict_types=1);

use App\Files\FileStore;
use App\Models\Document;
use App\Models\Rendition;
use Illuminate\Http\UploadedFile;
use Symfony\Component\Process\Process;

/** A PDF of some pages of lines, with a title, an attachment, a hidden layer and a note that say the same as the text. */
function secretPdf(array $pages, string $hidden = ''): string
{
    $pdf = new TCPDF('P', 'pt', 'A4');
    $pdf->setPrintHeader(false);
    $pdf->setPrintFooter(false);
    $pdf->setTitle("Report by {$hidden}");
    $pdf->setKeywords($hidden);
    foreach ($pages as $i => $lines) {
        $pdf->AddPage();
        $pdf->setFont('helvetica', '', 12);
        foreach ($lines as $row => $line) {
            $pdf->Text(60, 60 + 22 * $row, $line);
        }
        if ($hidden !== '' && $i === 0) {
            $pdf->startLayer('hidden', false, false);
            $pdf->Text(60, 400, $hidden);
            $pdf->endLayer();
            $pdf->Annotation(300, 300, 20, 20, "Ask {$hidden}", ['Subtype' => 'Text', 'Name' => 'Comment']);
            $file = tempnam(sys_get_temp_dir(), 'att');
            file_put_contents($file, "All about {$hidden}");
            $pdf->Annotation(320, 300, 20, 20, 'file', ['Subtype' => 'FileAttachment', 'FS' => $file]);
        }
    }

    return $pdf->Output('', 'S');
}

/** Everything a file says: its bytes, all its streams unpacked, its text, its properties. */
function allOf(string $path): string
{
    $run = static function (string ...$command): string {
        $process = new Process($command);
        $process->run();

        return $process->getOutput();
    };

    return file_get_contents($path).
        $run('pdftotext', $path, '-').
        $run('pdfinfo', $path).
        $run('pdfdetach', '-list', $path).
        $run('qpdf', '--qdf', '--object-streams=disable', '--decode-level=all', $path, '-');
}

beforeEach(function () {
    $this->report = function (array $pages, string $hidden = ''): string {
        $this->as('clerk');
        $ref = $this->post(
            '/api/intake',
            ['library' => 'waterways', 'file' => UploadedFile::fake()->createWithContent('report.pdf', secretPdf($pages, $hidden))],
            ['Accept' => 'application/json'],
        )
            ->assertCreated()
            ->json('ref');
        $this->postJson('/api/intake/file', [
            'documents' => [$ref],
            'type' => 'lock_inspection',
            'values' => ['structure' => ['LK-0407-5'], 'document_date' => ['2024-03-01'], 'inspector' => ['Osric Vane']],
        ])->assertOk();

        return $ref;
    };
    /** All places of some words, removed. */
    $this->remove = function (string $ref, array $sought, string $by = 'librarian') {
        $this->as($by);
        $places = $this->postJson("/api/documents/{$ref}/redactions/find", $sought)
            ->assertOk()
            ->json('places');
        $version = $this->getJson("/api/documents/{$ref}")->json('version');

        return $this->postJson("/api/documents/{$ref}/redactions", [
            'version' => $version,
            'reason' => 'personal',
            'marks' => array_map(fn (array $p): array => array_intersect_key($p, ['page' => 1, 'start' => 1, 'length' => 1]), $places),
        ])->assertOk();
    };
    $this->copyOf = fn (string $ref): string => app(FileStore::class)->path(
        (string) Rendition::query()
            ->where('document_id', Document::query()->where('ref', $ref)->value('id'))
            ->value('sha256'),
    );
});

it('leaves nothing of what was removed in the copy, split, hyphenated or hidden as it may be', function () {
    $ref = ($this->report)(
        [
            ['Inspected by Osric Vane, lock 417.', 'Seepage near the sill, says Quillfea-', 'ther, who stood by Osric', 'Vane all day.'],
            ['The gate of the second page stays as it is.'],
        ],
        'Quillfeather',
    );
    $answer = ($this->remove)($ref, ['words' => ['quillfeather'], 'people' => true]);
    expect(array_column($answer->json('redactions'), 'exact'))
        ->toBe(['Osric Vane', 'Quillfea- ther', 'Osric Vane'])
        ->and($answer->json('copy'))
        ->toBe(['state' => 'ready', 'says' => '', 'open' => null]);
    $copy = ($this->copyOf)($ref);
    $all = allOf($copy);
    foreach (['Osric', 'Vane', 'Quillfea', 'ther,', 'Ask ', 'All about'] as $gone) {
        expect(stripos($all, $gone))->toBeFalse();
    }
    $text = (new Process(['pdftotext', $copy, '-']))->mustRun()->getOutput();
    expect($text)
        ->toContain('Inspected')
        ->toContain('Seepage')
        ->toContain('stays as it is')
        ->and((new Process(['pdfinfo', $copy]))->mustRun()->getOutput())
        ->toMatch('/Pages:\s+2/');
    // The page is a picture of 200 dots an inch.
    expect((new Process(['pdfimages', '-list', $copy]))->mustRun()->getOutput())->toMatch('/jpeg .*\b200 +200\b/');
    // The layer of text is there to be found, not to be seen (rendering mode 3), and each word where it was.
    expect($all)->toContain(' 3 Tr')->not->toMatch('/ [012] Tr [^T]*T[Jj]/');
    [$was, $is] = array_map(
        static fn (string $path): array => preg_match(
            '/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)"[^>]*>Seepage/',
            (new Process(['pdftotext', '-bbox', $path, '-']))->mustRun()->getOutput(),
            $m,
        )
            ? array_map(floatval(...), array_slice($m, 1))
            : [],
        [app(FileStore::class)->path(Document::query()->where('ref', $ref)->value('sha256')), $copy],
    );
    foreach ($was as $i => $edge) {
        expect(abs($edge - $is[$i]))->toBeLessThan(3.0);
    }
    // The original stays, by right.
    expect(allOf(app(FileStore::class)->path(Document::query()->where('ref', $ref)->value('sha256'))))->toContain('Quillfea');
});

it('finds and removes what a page break cuts in two, on both pages', function () {
    $ref = ($this->report)([['The sill was seen by Mildred Quillfea-', 'page 1'], ['ther, who wrote it down.']]);
    $places = $this->as('librarian')
        ->postJson("/api/documents/{$ref}/redactions/find", ['words' => ['Mildred Quillfeather', 'Mildred']])
        ->assertOk()
        ->json('places');
    expect(array_map(static fn (array $p): array => [$p['page'], $p['exact'], $p['part']], $places))->toBe([
        [1, 'Mildred', ''],
        [1, 'Mildred Quillfea-', 'begins'],
        [2, 'ther', 'ends'],
    ]);
    ($this->remove)($ref, ['words' => ['Mildred Quillfeather']]);
    $all = allOf(($this->copyOf)($ref));
    foreach (['Mildred', 'Quillfea', 'ther,'] as $gone) {
        expect(stripos($all, $gone))->toBeFalse();
    }
    expect($all)->toContain('wrote');
});

it('shows those who may see the redacted copy only nothing else anywhere', function () {
    $ref = ($this->report)([['Inspected by Osric Vane at the sill.'], ['Nothing more.']]);
    expect($this->search(['words' => 'Osric', 'where' => ['text']], 'reader')->json('total'))->toBe(1);
    ($this->remove)($ref, ['words' => ['Osric Vane']]);
    foreach (['Osric', '"by Osric"', 'Osrik', 'Os*'] as $words) {
        $found = $this->search(['words' => $words, 'where' => ['text'], 'snippets' => true], 'reader');
        expect($found->json('total'))
            ->toBe(0)
            ->and(stripos((string) json_encode($found->json('suggestions') ?? []).json_encode($found->json('ledger')), 'osric '))
            ->toBeFalse();
        expect($this->search(['words' => 'Osric', 'where' => ['text']], 'clerk')->json('total'))->toBe(1);
    }
    $row = $this->search(['words' => 'sill', 'where' => ['text'], 'snippets' => true], 'reader')->json('rows.0');
    expect(json_encode($row['snippet']))->not->toContain('Osric')->toContain('sill');
    $seen = $this->as('reader')
        ->getJson("/api/documents/{$ref}")
        ->assertOk();
    expect($seen->json('redacted_only'))->toBeTrue();
    expect(
        $this->getJson("/api/documents/{$ref}/pages/1")
            ->assertOk()
            ->json('pieces.0.0'),
    )
        ->not->toContain('Osric')
        ->toContain('████')
        ->and($this->getJson("/api/documents/{$ref}/hits?words=Vane")->json('total'))
        ->toBe(0);
    $file = $this->get("/api/documents/{$ref}/file")->assertOk();
    expect($file->headers->get('Content-Disposition'))
        ->toContain('redacted')
        ->and($file->headers->get('Cache-Control'))
        ->toContain('no-store')
        ->and(hash_file('sha256', $file->baseResponse->getFile()->getPathname()))
        ->toBe(hash_file('sha256', ($this->copyOf)($ref)));
    foreach (['versions', 'versions/compare?from=1&to=2', 'file?version=2'] as $path) {
        $this->getJson("/api/documents/{$ref}/{$path}")->assertNotFound();
    }
    $this->getJson("/api/documents/{$ref}/redactions")->assertForbidden();
    // A link and a delivery they make is of the copy, whatever they ask for.
    $address = $this->postJson("/api/documents/{$ref}/links", ['most_uses' => 2, 'days' => 2, 'form' => 'plain'])
        ->assertCreated()
        ->json('address');
    expect(hash_file('sha256', $this->post(parse_url($address, PHP_URL_PATH))->assertOk()->baseResponse->getFile()->getPathname()))->toBe(
        hash_file('sha256', ($this->copyOf)($ref)),
    );
    $list = $this->postJson('/api/lists', ['name' => 'Mine'])->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref]])->assertOk();
    $delivery = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'zip'])
        ->assertCreated()
        ->json('id');
    $zip = new ZipArchive();
    $zip->open(config('brenvic.data')."/deliveries/{$delivery}.zip");
    expect($zip->getNameIndex(0))
        ->toContain('(redacted).pdf')
        ->and(hash('sha256', (string) $zip->getFromIndex(0)))
        ->toBe(hash_file('sha256', ($this->copyOf)($ref)));
});

it('delivers a list redacted when that is chosen, and leaves out what cannot be', function () {
    $ref = ($this->report)([['By Osric Vane.']]);
    ($this->remove)($ref, ['words' => ['Osric Vane']]);
    $plain = $this->filed('Nothing to hide', 'plain.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $text = $this->filed("Call Osric Vane on 01632 960 417\nnow", 'call.txt', 'stoppage_notice', [
        'waterway' => ['tarn-sea'],
        'document_date' => ['2024'],
    ]);
    ($this->remove)($text, ['words' => ['osric vane'], 'forms' => ['phone']]);
    $this->as('librarian');
    $list = $this->postJson('/api/lists', ['name' => 'Insurer'])->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref, $plain, $text]])->assertOk();
    config(['brenvic.redaction_check' => true]);
    $this->as('manager')
        ->postJson("/api/documents/{$ref}/redactions/check")
        ->assertOk()
        ->assertJsonPath('redactions.0.checked_by', 'Corin Bexley');
    $this->as('librarian')
        ->postJson("/api/documents/{$text}/redactions/check")
        ->assertUnprocessable();
    $delivery = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'bag', 'form' => 'redacted', 'names' => '{reference} {file}'])
        ->assertCreated()
        ->json('id');
    $contents = $this->getJson("/api/deliveries/{$delivery}")->json('contents');
    expect(array_column($contents, 'remark')[0])->toBe('');
    expect(array_column($contents, 'file'))
        ->toBe(["data/{$ref} report (redacted).pdf", "data/{$plain} plain.txt", ''])
        ->and($contents[2]['remark'])
        ->toContain('Nobody has checked yet');
    config(['brenvic.redaction_check' => false]);
    $delivery = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'zip', 'form' => 'redacted'])
        ->assertCreated()
        ->json('id');
    $zip = new ZipArchive();
    $zip->open(config('brenvic.data')."/deliveries/{$delivery}.zip");
    expect($zip->getFromName("{$text} call (redacted).txt"))->toBe("Call ████ on ████\nnow\n");
});

it('removes areas and words under them, and takes back', function () {
    $ref = ($this->report)([['By Osric Vane at noon.']]);
    $this->as('librarian');
    $hit = $this->getJson("/api/documents/{$ref}/pages/1?words=Vane")->json('boxes.0.0');
    $post = fn (array $mark, string $reason = 'personal') => $this->postJson("/api/documents/{$ref}/redactions", [
        'version' => 1,
        'reason' => $reason,
        'marks' => [['page' => 1, ...$mark]],
    ]);
    $post(['areas' => [$hit], 'words' => true], 'because')->assertUnprocessable();
    $post(['areas' => [[400, 700, 500, 750]], 'words' => true])->assertUnprocessable();
    $post(['start' => 5, 'length' => 9999])->assertUnprocessable();
    $this->postJson("/api/documents/{$ref}/redactions/find", ['words' => ['**']])->assertUnprocessable();
    $first = $post(['areas' => [$hit], 'words' => true])->assertOk();
    expect($first->json('redactions.0.exact'))
        ->toBe('Vane')
        ->and(
            $this->as('reader')
                ->getJson("/api/documents/{$ref}/pages/1")
                ->json('pieces.0.0'),
        )
        ->toContain('Osric')
        ->not->toContain('Vane');
    // An area takes every word that it touches.
    $this->as('librarian');
    $osric = $this->getJson("/api/documents/{$ref}/pages/1?words=Osric")->json('boxes.0.0');
    $post(['areas' => [[$osric[0] + 8, $osric[1], $osric[0] + 12, $osric[3]]]])->assertOk();
    expect(
        $this->as('reader')
            ->getJson("/api/documents/{$ref}/pages/1")
            ->json('pieces.0.0'),
    )->not->toContain('Osric');
    $this->as('librarian');
    $ids = array_column($this->getJson("/api/documents/{$ref}/redactions")->json('redactions'), 'id');
    $this->postJson("/api/documents/{$ref}/redactions/take-back", ['redactions' => $ids])
        ->assertOk()
        ->assertJsonPath('copy', null);
    expect($this->search(['words' => 'Vane', 'where' => ['text']], 'reader')->json('total'))
        ->toBe(1)
        ->and(Rendition::query()->count())
        ->toBe(0);
    $acts = array_column(
        $this->as('manager')
            ->getJson("/api/documents/{$ref}/history")
            ->json('history'),
        'act',
    );
    expect($acts)->toContain('redacted')->toContain('redaction undone');
});

it('finds what was removed again in a new version, and lets nothing out while it is unsure', function () {
    $ref = $this->filed('Call Osric Vane today.', 'call.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    ($this->remove)($ref, ['words' => ['Osric Vane']]);
    $next = function (string $contents) use ($ref): void {
        $this->as('clerk')
            ->postJson("/api/documents/{$ref}/check-out")
            ->assertOk();
        $this->post(
            "/api/documents/{$ref}/check-in",
            ['file' => UploadedFile::fake()->createWithContent('call.txt', $contents)],
            ['Accept' => 'application/json'],
        )->assertOk();
    };
    $next('A new beginning. Call Osric Vane today.');
    expect(
        $this->as('reader')
            ->getJson("/api/documents/{$ref}/pages/1")
            ->json('pieces.0.0'),
    )
        ->toBe('A new beginning. Call ████ today.')
        ->and($this->search(['words' => 'Osric', 'where' => ['text', 'earlier']], 'reader')->json('total'))
        ->toBe(0);
    $next('Call O. Vane at once.');
    $this->as('reader')
        ->getJson("/api/documents/{$ref}/pages/1")
        ->assertNotFound();
    $this->getJson("/api/documents/{$ref}/file")->assertUnprocessable();
    expect($this->search(['words' => 'Vane', 'where' => ['text']], 'reader')->json('total'))
        ->toBe(0)
        ->and(
            $this->as('librarian')
                ->getJson("/api/documents/{$ref}/redactions")
                ->json('redactions.0.lost'),
        )
        ->toBeTrue();
});

it('says why no copy can be made', function () {
    $ref = ($this->report)([['By Osric Vane.']]);
    $document = Document::query()->where('ref', $ref)->firstOrFail();
    // The stored file is damaged after its text was read.
    file_put_contents(app(FileStore::class)->path($document->sha256), '%PDF-1.4 nothing');
    $answer = ($this->remove)($ref, ['words' => ['Vane']]);
    expect($answer->json('copy.state'))->toBe('failed')->and($answer->json('copy.says'))->toContain('was damaged since it was stored');
    $this->as('reader')
        ->getJson("/api/documents/{$ref}/file")
        ->assertUnprocessable();
});

it('removes words wherever page work puts their page, twice where it stands twice', function () {
    $pdf = new TCPDF('P', 'pt', 'A4');
    $pdf->setPrintHeader(false);
    $pdf->setPrintFooter(false);
    $pdf->setFont('helvetica', '', 12);
    foreach (['Nothing', 'By Osric Vane at the sill.', 'By Osric Vane at the weir.'] as $line) {
        $pdf->AddPage();
        $pdf->Text(60, 60, $line);
    }
    $ref = $this->filed($pdf->Output('', 'S'), 'report.pdf', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $this->as('librarian')
        ->postJson("/api/documents/{$ref}/redactions", [
            'version' => 1,
            'reason' => 'personal',
            'marks' => [['page' => 2, 'start' => 3, 'length' => 10]],
        ])
        ->assertOk();
    $this->postJson("/api/documents/{$ref}/redactions", [
        'version' => 1,
        'reason' => 'personal',
        'marks' => [['page' => 3, 'areas' => [[50, 50, 300, 90]]]],
    ])->assertOk();
    $this->as('clerk')
        ->post(
            "/api/documents/{$ref}/pages",
            [
                'version' => 1,
                'note' => 'x',
                'pages' => json_encode([
                    ['source' => '', 'page' => 3, 'turn' => 180],
                    ['source' => '', 'page' => 2, 'turn' => 0],
                    ['source' => '', 'page' => 2, 'turn' => 90],
                ]),
            ],
            ['Accept' => 'application/json'],
        )
        ->assertOk();
    $marks = collect(
        $this->as('librarian')
            ->getJson("/api/documents/{$ref}/redactions")
            ->json('redactions'),
    );
    expect($marks->where('lost', true)->count())
        ->toBe(0)
        ->and($marks->pluck('page')->sort()->values()->all())
        ->toBe([1, 2, 3]);
    $file = $this->get("/api/documents/{$ref}/file?form=redacted")
        ->assertOk()
        ->baseResponse->getFile()
        ->getPathname();
    expect((string) shell_exec('pdftotext '.escapeshellarg($file).' -'))->not->toContain('Osric');
});
