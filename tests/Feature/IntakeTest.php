<?php

declare(strict_types=1);

use App\Intake\Arrivals;
use App\Models\Document;
use Demo\Chance;
use Demo\FileMaker;
use Illuminate\Support\Facades\DB;

beforeEach(function () {
    $this->folder = sys_get_temp_dir().'/brenvic-made-'.getmypid();
    @mkdir($this->folder);
});

afterEach(fn () => Illuminate\Support\Facades\File::deleteDirectory($this->folder));

it('reads a PDF page by page with the place of each word', function () {
    FileMaker::pdf("{$this->folder}/a.pdf", 'Office', [['Findings', ['Seepage near the sill.']], ['Second page', ['Nothing of note.']]]);
    $ref = $this->filed((string) file_get_contents("{$this->folder}/a.pdf"), 'a.pdf', 'stoppage_notice', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
    ]);
    $this->getJson("/api/documents/{$ref}")
        ->assertJsonPath('page_count', 2)
        ->assertJsonPath('text_state', 'read');
    $this->getJson("/api/documents/{$ref}/hits?words=seepage+page")->assertJson([
        'total' => 2,
        'pages' => [['page' => 1, 'hits' => 1], ['page' => 2, 'hits' => 1]],
    ]);
    $page = $this->getJson("/api/documents/{$ref}/pages/1?words=%22near+the+sill%22")->assertOk();
    expect($page->json('boxes'))->toHaveCount(1)->and($page->json('boxes.0'))->toHaveCount(3);
    [$left, $top, $right, $bottom] = $page->json('boxes.0.0');
    expect($left)
        ->toBeGreaterThan(0)
        ->and($right)
        ->toBeGreaterThan($left)
        ->toBeLessThan($page->json('width'))
        ->and($bottom)
        ->toBeGreaterThan($top);
});

it('reads images and image-only PDFs by OCR', function () {
    FileMaker::scan("{$this->folder}/card.png", ['Toll House', 'Letters of the lock keeper'], new Chance(1));
    FileMaker::imagePdf("{$this->folder}/card.pdf", "{$this->folder}/card.png");
    foreach (['card.png', 'card.pdf'] as $name) {
        $this->filed((string) file_get_contents("{$this->folder}/{$name}"), $name, 'catalogue_card', ['place' => ['Toll House']], 'voices');
    }
    $found = $this->search(['words' => 'text = keeper']);
    expect($found->json('total'))->toBe(2);
    $page = $this->getJson("/api/documents/{$found->json('rows.0.ref')}/pages/1?words=keeper");
    expect($page->json('boxes.0.0.2'))->toBeLessThan($page->json('width'));
});

it('keeps attachments with their mail, each found by its own text', function () {
    FileMaker::word("{$this->folder}/sketch.docx", ['A sketch of the weir']);
    FileMaker::mail(
        "{$this->folder}/m.eml",
        'A <a@tarnwick.example>',
        'B <b@tarnwick.example>',
        'Closure at noon',
        '2024-01-02',
        'The navigation is closed.',
        ["{$this->folder}/sketch.docx"],
    );
    $ref = $this->filed((string) file_get_contents("{$this->folder}/m.eml"), 'm.eml', 'stoppage_notice', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
    ]);
    expect($this->search(['words' => '"closure at noon"'])->json('rows.0'))->toMatchArray(['ref' => $ref, 'attachments' => 1]);
    $found = $this->search(['words' => 'weir']);
    expect($found->json('total'))->toBe(1)->and($found->json('rows.0.file_name'))->toBe('sketch.docx');
    $this->getJson("/api/documents/{$found->json('rows.0.ref')}")->assertJsonPath('parent.ref', $ref);
    // Below its mail it is shown as the search shows everything, with whether the search finds it too.
    $below = fn (string $words): array => $this->postJson("/api/search/attached/{$ref}", ['words' => $words, 'columns' => ['file_name']])
        ->assertOk()
        ->json('rows');
    expect($below('"closure at noon"'))
        ->toHaveCount(1)
        ->and($below('"closure at noon"')[0])
        ->toMatchArray(['ref' => $found->json('rows.0.ref'), 'cells' => ['file_name' => 'sketch.docx'], 'is_found' => false])
        ->and($below('weir')[0]['is_found'])
        ->toBeTrue();
    $all = $this->search([]);
    $attached = $this->search(['criteria' => [['cql' => 'attached == 1']]]);
    $without = $this->search(['criteria' => [['cql' => 'attached == 1', 'negated' => true]]]);
    expect($attached->json('rows.*.ref'))
        ->toBe([$found->json('rows.0.ref')])
        ->and($without->json('total'))
        ->toBe($all->json('total') - 1)
        ->and($without->json('ledger.0'))
        ->toMatchArray(['subject' => 'Attachment', 'negated' => true, 'relation' => 'is not', 'value' => 'Yes'])
        ->and(array_column(collect($all->json('facets'))->firstWhere('field', 'attached')['values'], 'count', 'label'))
        ->toBe(['No' => $all->json('total') - 1, 'Yes' => 1]);
});

it('names the other mails of an exchange, those a person may see', function () {
    $refs = [];
    foreach (
        [['first', '', 'board'], ['second', 'first', 'waterways'], ['third', 'first', 'waterways'], ['other', '', 'waterways']] as [$id, $answers, $library]
    ) {
        FileMaker::mail(
            "{$this->folder}/{$id}.eml",
            'A <a@tarnwick.example>',
            'B <b@tarnwick.example>',
            $id,
            '2024-01-02',
            'About the gate.',
            [],
            $id,
            $answers,
        );
        $refs[$id] =
            $library === 'board'
                ? $this->filed(
                    (string) file_get_contents("{$this->folder}/{$id}.eml"),
                    "{$id}.eml",
                    'byelaw',
                    ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
                    'board',
                    'librarian',
                )
                : $this->filed((string) file_get_contents("{$this->folder}/{$id}.eml"), "{$id}.eml", 'stoppage_notice', [
                    'document_date' => ['2024'],
                    'waterway' => ['tarn-sea'],
                ]);
    }
    expect(
        array_column(
            $this->as('librarian')
                ->getJson("/api/documents/{$refs['second']}")
                ->json('exchange'),
            'ref',
        ),
    )
        ->toBe([$refs['first'], $refs['third']])
        ->and(
            array_column(
                $this->as('reader')
                    ->getJson("/api/documents/{$refs['second']}")
                    ->json('exchange'),
                'ref',
            ),
        )
        ->toBe([$refs['third']])
        ->and($this->getJson("/api/documents/{$refs['other']}")->json('exchange'))
        ->toBe([]);
});

it('keeps a file it cannot read, says why, and finds it by name and fields', function (Closure $make, string $name, string $reason) {
    $ref = $this->filed($make($this->folder), $name, 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $document = $this->getJson("/api/documents/{$ref}");
    expect($document->json('text_state'))->toBe('none')->and($document->json('text_reason'))->toContain($reason);
    expect($this->search(['words' => 'waterway == tarn-sea and file_name = '.pathinfo($name, PATHINFO_FILENAME)])->json('total'))->toBe(
        1,
    );
    $this->get("/api/documents/{$ref}/file")->assertOk();
})->with([
    'empty' => [fn () => '', 'hollow.pdf', 'empty (0 bytes)'],
    'damaged' => [fn () => "%PDF-1.4\nbroken", 'torn.pdf', 'damaged'],
    'encrypted' => [
        function (string $folder) {
            FileMaker::pdf("{$folder}/open.pdf", 'x', [['x', ['y']]]);
            FileMaker::lock("{$folder}/open.pdf", "{$folder}/locked.pdf");

            return (string) file_get_contents("{$folder}/locked.pdf");
        },
        'locked.pdf',
        'password',
    ],
    'unknown' => [fn () => "\0\1\2\3".str_repeat("\xFE\0", 50), 'blob.dat', 'does not know'],
    'not an image' => [fn () => "\x89PNG\r\n\x1A\nrest", 'picture.png', 'damaged'],
    'a bomb' => [
        function (string $folder) {
            $zip = new ZipArchive();
            $zip->open("{$folder}/bomb.docx", ZipArchive::CREATE);
            $zip->addFromString('word/document.xml', str_repeat('0', 70 * 1024 * 1024));
            $zip->close();

            return (string) file_get_contents("{$folder}/bomb.docx");
        },
        'bomb.docx',
        'unpacks to more',
    ],
    'XML with entities' => [
        function (string $folder) {
            $zip = new ZipArchive();
            $zip->open("{$folder}/e.docx", ZipArchive::CREATE);
            $zip->addFromString('word/document.xml', '<!DOCTYPE d [<!ENTITY x SYSTEM "file:///etc/passwd">]><d>&x;</d>');
            $zip->close();

            return (string) file_get_contents("{$folder}/e.docx");
        },
        'entities.docx',
        'entities',
    ],
]);

it('never runs what was uploaded, and never lets a name become a path', function () {
    $ref = $this->filed('<html><script>alert(1)</script><p>Hello weir</p></html>', 'page.html', 'stoppage_notice', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
    ]);
    $file = $this->get("/api/documents/{$ref}/file")->assertOk();
    expect($file->headers->get('Content-Type'))
        ->toStartWith('text/plain')
        ->and($file->headers->get('Content-Security-Policy'))
        ->toBe('sandbox')
        ->and($file->headers->get('X-Content-Type-Options'))
        ->toBe('nosniff');
    expect($this->search(['words' => 'weir'])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'alert'])->json('total'))
        ->toBe(0);

    $svg = $this->filed('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>', 'drawing.svg', 'stoppage_notice', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
    ]);
    expect($this->get("/api/documents/{$svg}/file")->headers->get('Content-Type'))->toStartWith('text/plain');

    $this->upload('x', '../../x.pdf')->assertCreated()->assertJsonPath('file_name', 'x.pdf');
    expect(Arrivals::safeName('..\\..\\x.pdf'))
        ->toBe('x.pdf')
        ->and(Arrivals::safeName("a\0\u{202E}b.txt"))
        ->toBe('ab.txt')
        ->and(Arrivals::safeName('..'))
        ->toBe('unnamed')
        ->and(file_exists(config('brenvic.data').'/x.pdf'))
        ->toBeFalse();
});

it('keeps a file that is too large to be read', function () {
    config(['brenvic.limits.read_bytes' => 1024 * 1024]);
    $ref = $this->filed(str_repeat('weir ', 250_000), 'long.txt', 'stoppage_notice', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
    ]);
    $this->getJson("/api/documents/{$ref}")
        ->assertJsonPath('text_state', 'none')
        ->assertJsonPath('text_reason', 'The file is larger than 1 MB. It is kept as it is; its text was not read.');
    expect($this->search(['words' => 'weir'])->json('total'))
        ->toBe(0)
        ->and($this->search(['words' => 'long'])->json('total'))
        ->toBe(1);
});

it('says what is wrong with an upload', function () {
    config(['brenvic.limits.file_bytes' => 1024 * 1024]);
    $this->upload(str_repeat('x', 1024 * 1024 + 1), 'large.txt')
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.file', '“large.txt” is larger than 1 MB and was not stored.');
    $this->postJson('/api/intake', ['library' => 'waterways'])
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['file']]]);
    $this->upload('x', 'x.txt', 'nowhere')->assertNotFound();
    $this->upload('x', 'x.txt', 'board')->assertNotFound();
    expect(Document::query()->count())->toBe(0);
});

it('refuses wrong values with a sentence beside the field, and files nothing', function () {
    $ref = $this->upload('x', 'x.txt')->json('ref');
    $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'lock_inspection',
        'values' => ['document_date' => ['31 Feb 2024'], 'structure' => ['LK-0417-A'], 'condition' => ['bd'], 'vessel' => ['Tern']],
    ])
        ->assertUnprocessable()
        ->assertJson([
            'error' => [
                'code' => 'invalid',
                'fields' => [
                    'document_date' => '“31 feb 2024” is not a date: that month has no day 31.',
                    'vessel' => '“vessel” is not a field of this document type.',
                ],
            ],
        ])
        ->assertJsonStructure(['error' => ['fields' => ['structure', 'condition']]]);
    expect(Document::query()->where('state', Document::FILED)->exists())->toBeFalse();
});

it('files several with the same values, and takes a discard back', function () {
    $refs = array_map(fn (int $i): string => $this->upload("Text {$i}", "{$i}.txt")->json('ref'), [1, 2, 3]);
    $this->postJson('/api/intake/discard', ['documents' => [$refs[2]]])->assertJsonCount(2, 'documents');
    $this->postJson('/api/intake/file', ['documents' => $refs, 'type' => 'stoppage_notice', 'values' => []])
        ->assertUnprocessable()
        ->assertJsonPath('error.code', 'refused');
    $this->postJson('/api/intake/restore', ['documents' => [$refs[2]]])->assertJsonCount(3, 'documents');
    $this->postJson('/api/intake/file', [
        'documents' => $refs,
        'type' => 'stoppage_notice',
        'values' => ['document_date' => ['2024'], 'waterway' => ['tarn-sea']],
    ])
        ->assertOk()
        ->assertJsonCount(0, 'documents');
    expect($this->search(['words' => ''])->json('total'))->toBe(3);
});

it('shows many that wait with as many queries as few', function () {
    $queries = function (int $more): int {
        for ($i = 0; $i < $more; $i++) {
            $this->upload("Text {$i}", "w{$i}-{$more}.txt")->assertCreated();
        }
        DB::flushQueryLog();
        DB::enableQueryLog();
        $this->as('clerk')->getJson('/api/intake')->assertOk();

        return count(DB::getQueryLog());
    };
    expect($queries(2))->toBe($queries(9));
});

it('keeps the sheet of what waits, says what it lacks, and files all that is complete as one act', function () {
    $refs = array_map(fn (string $name): string => arrived("The sluice is shut. {$name}", "{$name}.txt"), ['one', 'two', 'three']);
    $row = fn (string $ref): array => collect($this->getJson('/api/intake')->assertOk()->json('documents'))->firstWhere('ref', $ref);
    expect($row($refs[0])['lacks'])->toBe(['document type']);
    $keep = fn (string $ref, array $values, int $lock = 1) => $this->putJson(
        "/api/intake/sheets/{$ref}",
        ['type' => 'stoppage_notice', 'values' => $values, 'lock_version' => $lock],
    );
    $keep($refs[0], ['waterway' => ['Sea lock pound'], 'document_date' => ['1 Mar 2024']])->assertOk()->assertJsonPath('faults', []);
    // What is wrong is not kept, and told; the rest is.
    $keep($refs[1], ['waterway' => ['Sea lock pound'], 'document_date' => ['31 Feb']])->assertOk()->assertJsonCount(1, 'faults');
    expect($row($refs[0])['lacks'])->toBe([])
        ->and($row($refs[0])['values']['document_date'][0]['label'])->toBe('1 Mar 2024')
        ->and($row($refs[1])['lacks'])->toBe(['Document date'])
        ->and($row($refs[1])['values']['waterway'][0]['label'])->toBe('Sea lock pound');
    // Somebody else was quicker.
    $keep($refs[1], [], 1)->assertConflict();
    $this->as('librarian')->putJson("/api/intake/sheets/{$refs[1]}", ['type' => null, 'values' => [], 'lock_version' => 2])->assertNotFound();
    $answer = $this->as('clerk')->postJson('/api/intake/file-complete', ['documents' => $refs])->assertOk()->json();
    expect($answer['filed'])->toBe(1)
        ->and($answer['left'])->toBe([
            ['ref' => $refs[1], 'why' => 'Document date is required.'],
            ['ref' => $refs[2], 'why' => 'It has no document type.'],
        ])
        ->and(array_column($answer['documents'], 'ref'))->toBe([$refs[1], $refs[2]])
        ->and($this->search(['words' => 'sluice'], 'clerk')->json('total'))->toBe(1);
    // Taken back, it waits with the sheet that it was filed with, and nothing finds it.
    $this->postJson("/api/document-acts/{$answer['act']}/undo")->assertOk()->assertJsonPath('undone', 1);
    expect($this->search(['words' => 'sluice'], 'clerk')->json('total'))->toBe(0)->and($row($refs[0])['lacks'])->toBe([]);
    $this->postJson('/api/intake/file-complete', ['documents' => [$refs[0], 'D-99999-X']])->assertUnprocessable();
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->postJson('/api/intake/file-complete', ['documents' => [$refs[0]]])->assertForbidden();
        $this->putJson("/api/intake/sheets/{$refs[0]}", ['values' => []])->assertForbidden();
        $this->getJson('/api/intake/count')->assertForbidden();
        $this->getJson('/api/intake/hands')->assertForbidden();
        $this->postJson('/api/intake/hand-over', ['documents' => [$refs[0]], 'person' => 'librarian'])->assertForbidden();
        $this->getJson("/api/documents/{$refs[0]}/thumb")->assertForbidden();
    }
});

it('files into a dossier or not at all, and takes both back', function () {
    $dossier = $this->as('clerk')->postJson('/api/dossiers', [
        'kind' => 'stoppage',
        'library' => 'waterways',
        'values' => ['structure' => ['LK-0407-5'], 'works_period' => ['Jan 2025 to Mar 2025']],
    ])->assertCreated()->json('ref');
    $ref = arrived('The sluice is shut.', 'one.txt');
    $file = fn (string $into) => $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
        'dossier' => $into,
    ]);
    $slip = substr($dossier, 0, -1).($dossier[-1] === 'A' ? 'B' : 'A');
    $file($slip)->assertUnprocessable()->assertJsonPath('error.fields.dossier', fn (string $m): bool => str_contains($m, 'does not fit'));
    expect(Document::query()->where('ref', $ref)->value('state'))->toBe(Document::WAITING);
    $act = $file(strtolower($dossier))->assertOk()->json('act');
    expect(array_keys($this->getJson("/api/dossiers/{$dossier}")->json('inside')))->toBe([$ref]);
    $this->postJson("/api/document-acts/{$act}/undo")->assertOk();
    expect($this->getJson("/api/dossiers/{$dossier}")->json('inside'))->toBe([])
        ->and($this->getJson('/api/intake')->json('documents.0.ref'))->toBe($ref);
});

it('hands over to a colleague or a group, and says who is at what', function () {
    $ref = arrived('The sluice is shut.', 'one.txt');
    $hands = $this->getJson('/api/intake/hands')->assertOk()->json();
    expect(array_column($hands['people'], 'sign_in'))->toContain('librarian')->not->toContain('clerk', 'reader')
        ->and($hands['groups'])->toContain('Records office');
    $this->postJson('/api/intake/hand-over', ['documents' => [$ref], 'person' => 'reader'])->assertUnprocessable();
    $this->postJson('/api/intake/hand-over', ['documents' => [$ref], 'person' => 'nobody'])->assertNotFound();
    $this->postJson('/api/intake/hand-over', ['documents' => [$ref], 'group' => 'No such group'])->assertNotFound();
    $this->postJson('/api/intake/hand-over', ['documents' => [$ref], 'person' => 'librarian'])->assertOk()->assertJsonPath('documents', []);
    $this->getJson("/api/documents/{$ref}")->assertNotFound();
    $this->as('librarian')->getJson('/api/intake/count')->assertOk()->assertJsonPath('waiting', 1);
    $this->postJson('/api/intake/hand-over', ['documents' => [$ref], 'group' => 'Records office'])->assertOk();
    // Both see it now, and that the other is at it.
    $this->getJson("/api/intake?at={$ref}")->assertOk()->assertJsonPath('documents.0.at_it', null);
    $this->as('clerk')->getJson('/api/intake')->assertJsonPath('documents.0.at_it', 'Ottoline Marsh')->assertJsonPath('documents.0.group', 'Records office');
    $this->travel(30)->seconds();
    $this->getJson('/api/intake')->assertJsonPath('documents.0.at_it', null);
});

it('tells the list again only when it is another', function () {
    $ref = arrived('The sluice is shut.', 'one.txt');
    $stamp = $this->getJson('/api/intake')->assertOk()->json('stamp');
    $this->getJson("/api/intake?stamp={$stamp}")->assertJsonPath('documents', null)->assertJsonPath('total', 1);
    $this->putJson("/api/intake/sheets/{$ref}", ['type' => 'stoppage_notice', 'values' => [], 'lock_version' => 1])->assertOk();
    $this->getJson("/api/intake?stamp={$stamp}")->assertJsonPath('documents.0.type.code', 'stoppage_notice');
    $stamp = $this->getJson('/api/intake')->json('stamp');
    arrived('Another', 'two.txt');
    $this->getJson("/api/intake?stamp={$stamp}")->assertJsonCount(2, 'documents');
});

it('draws first pages in small, of what waits for who asks', function () {
    FileMaker::pdf("{$this->folder}/a.pdf", 'Office', [['Findings', ['Seepage near the sill.']]]);
    $pdf = arrived((string) file_get_contents("{$this->folder}/a.pdf"), 'a.pdf');
    $text = arrived('No picture.', 'a.txt');
    $picture = $this->get("/api/documents/{$pdf}/thumb")->assertOk()->assertHeader('Content-Type', 'image/jpeg');
    [$width, $height] = (array) getimagesizefromstring((string) file_get_contents($picture->baseResponse->getFile()->getPathname()));
    expect([$width < $height, $height])->toBe([true, 320]);
    $this->get("/api/documents/{$text}/thumb")->assertNotFound();
    $this->as('librarian')->getJson("/api/documents/{$pdf}/thumb")->assertNotFound();
});
