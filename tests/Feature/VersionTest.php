<?php

declare(strict_types=1);

use App\Files\FileStore;
use App\Models\Document;
use Illuminate\Http\UploadedFile;

function fileOf(string $contents, string $name = 'notice.txt'): array
{
    return ['file' => UploadedFile::fake()->createWithContent($name, $contents)];
}

beforeEach(function () {
    $this->ref = $this->filed('The sluice is shut on Monday.', 'notice.txt', 'stoppage_notice', [
        'waterway' => ['tarn-sea'],
        'document_date' => ['2024-03-01'],
    ]);
    $this->newVersion = function (string $contents, string $note = '', string $name = 'notice.txt'): void {
        $this->as('clerk')
            ->postJson("/api/documents/{$this->ref}/check-out")
            ->assertOk();
        $this->post(
            "/api/documents/{$this->ref}/check-in",
            [...fileOf($contents, $name), 'note' => $note],
            ['Accept' => 'application/json'],
        )->assertOk();
    };
});

it('checks out, keeps a copy by, checks in with a note, and keeps the earlier version with its text', function () {
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/check-in")
        ->assertUnprocessable();
    $this->postJson("/api/documents/{$this->ref}/check-out", ['note' => 'New dates'])
        ->assertOk()
        ->assertJsonPath('checked_out.own', true);
    $this->as('librarian')
        ->postJson("/api/documents/{$this->ref}/check-out")
        ->assertUnprocessable()
        ->assertJsonPath(
            'error.message',
            fn (string $m) => str_contains($m, 'Fenwick Dale has checked the document out') && str_contains($m, 'New dates'),
        );
    $this->as('clerk')
        ->post("/api/documents/{$this->ref}/check-out/copy", fileOf('half done', 'half.txt'), ['Accept' => 'application/json'])
        ->assertOk()
        ->assertJsonPath('checked_out.copy.file_name', 'half.txt');
    expect($this->search(['words' => 'half'])->json('total'))
        ->toBe(0)
        ->and(
            $this->as('librarian')
                ->getJson("/api/documents/{$this->ref}")
                ->json('checked_out.copy'),
        )
        ->toBeNull()
        ->and($this->as('clerk')->getJson('/api/work-in-progress')->json('documents.0.ref'))
        ->toBe($this->ref)
        ->and($this->as('librarian')->getJson('/api/work-in-progress')->json('documents.0.by'))
        ->toBe('Fenwick Dale')
        ->and($this->as('reader')->getJson('/api/work-in-progress')->json('documents'))
        ->toBe([]);
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/check-in", ['note' => 'First try'])
        ->assertOk()
        ->assertJsonPath('version', 2)
        ->assertJsonPath('checked_out', null)
        ->assertJsonPath('title', Document::query()->value('title'));
    ($this->newVersion)('The weir is shut on Tuesday.', 'Weir instead', 'weir.txt');

    $versions = $this->as('reader')
        ->getJson("/api/documents/{$this->ref}/versions")
        ->assertOk()
        ->json('versions');
    expect(array_column($versions, 'number'))
        ->toBe([3, 2, 1])
        ->and($versions[0])
        ->toMatchArray([
            'file_name' => 'weir.txt',
            'note' => 'Weir instead',
            'by' => 'Fenwick Dale',
            'current' => true,
            'how' => 'checked in',
        ])
        ->and($versions[2]['how'])
        ->toBe('as received');
    $file = fn (int $n): string => $this->as('reader')
        ->get("/api/documents/{$this->ref}/file?version={$n}")
        ->assertOk()
        ->streamedContent();
    expect($file(1))
        ->toContain('sluice')
        ->and($file(2))
        ->toBe('half done')
        ->and($file(3))
        ->toContain('weir')
        ->and($this->get("/api/documents/{$this->ref}/pages/1?version=1&words=sluice")->json('pieces.1'))
        ->toBe(['sluice', true])
        ->and($this->get("/api/documents/{$this->ref}/hits?version=1&words=sluice")->json('total'))
        ->toBe(1)
        ->and($this->get("/api/documents/{$this->ref}/hits?words=sluice")->json('total'))
        ->toBe(0);
    $this->getJson("/api/documents/{$this->ref}/file?version=9")->assertNotFound();
    $acts = array_column(
        $this->as('manager')
            ->getJson("/api/documents/{$this->ref}/history")
            ->json('history'),
        'act',
    );
    expect($acts)->toContain('given a new version')->toContain('checked out');
});

it('finds the latest version only, or all of them', function () {
    ($this->newVersion)('The weir is shut on Tuesday.');
    expect($this->search(['words' => 'weir'])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'sluice'])->json('total'))
        ->toBe(0)
        ->and($this->search(['words' => 'sluice', 'where' => ['text', 'earlier']])->json('total'))
        ->toBe(1)
        ->and($this->search(['criteria' => [['cql' => 'earlier adj "sluice is shut"', 'negated' => false, 'on' => true]]])->json('total'))
        ->toBe(1);
    $row = $this->search(['words' => 'sluice', 'where' => ['text', 'earlier']])->json('rows.0');
    expect($row['snippet_version'])
        ->toBe(1)
        ->and($row['snippet'])
        ->toContain(['sluice', true]);
});

it('compares two versions word by word and brings an old one back', function () {
    ($this->newVersion)('The weir is shut on Monday.');
    $pieces = $this->as('reader')
        ->getJson("/api/documents/{$this->ref}/versions/compare?from=1&to=2")
        ->assertOk()
        ->json('pieces');
    expect($pieces)->toBe([['same', 'The '], ['taken_out', 'sluice'], ['put_in', 'weir'], ['same', ' is shut on Monday.']]);
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/versions/2/make-current")
        ->assertUnprocessable();
    $this->postJson("/api/documents/{$this->ref}/versions/1/make-current")
        ->assertOk()
        ->assertJsonPath('version', 3);
    expect($this->search(['words' => 'sluice'])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'weir'])->json('total'))
        ->toBe(0)
        ->and($this->getJson("/api/documents/{$this->ref}/versions")->json('versions.0.note'))
        ->toBe('Version 1 again');
    // One file, two versions: it stays while either is there.
    expect(is_file(app(FileStore::class)->path(hash('sha256', 'The sluice is shut on Monday.'))))->toBeTrue();
});

it('makes no version of what is the same, held, a template, or behind', function () {
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/check-out")
        ->assertOk();
    $in = fn (string $contents) => $this->as('clerk')->post("/api/documents/{$this->ref}/check-in", fileOf($contents), [
        'Accept' => 'application/json',
    ]);
    $in('The sluice is shut on Monday.')
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m) => str_contains($m, 'byte for byte'));
    $this->putJson("/api/documents/{$this->ref}/template")->assertUnprocessable();
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'Case'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$this->ref]])->assertOk();
    $this->postJson("/api/lists/{$list}/hold", ['on' => true, 'reason' => 'Claim 7'])->assertOk();
    $in('Changed.')->assertUnprocessable()->assertJsonPath('error.message', fn (string $m) => str_contains($m, 'Claim 7'));
    $this->as('librarian')
        ->postJson("/api/lists/{$list}/hold", ['on' => false])
        ->assertOk();
    $this->postJson('/api/removed', ['documents' => [$this->ref], 'reason' => 'x'])->assertUnprocessable();
    // Who answers for it may give anybody's check-out up; nobody else.
    $this->as('reader')
        ->deleteJson("/api/documents/{$this->ref}/check-out")
        ->assertUnprocessable();
    $this->as('librarian')
        ->deleteJson("/api/documents/{$this->ref}/check-out")
        ->assertOk()
        ->assertJsonPath('checked_out', null);

    $this->as('clerk')
        ->putJson("/api/documents/{$this->ref}/template")
        ->assertOk()
        ->assertJsonPath('is_template', true);
    $this->postJson("/api/documents/{$this->ref}/check-out")
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m) => str_contains($m, 'cannot be overwritten'));
    $made = $this->postJson("/api/documents/{$this->ref}/template/new")
        ->assertCreated()
        ->json('ref');
    $waiting = $this->getJson('/api/intake')->json('documents.0');
    expect($waiting['ref'])
        ->toBe($made)
        ->and($waiting['values']['waterway'][0]['value'])
        ->toBe('tarn-sea')
        ->and($waiting['type']['code'])
        ->toBe('stoppage_notice');
    $this->deleteJson("/api/documents/{$this->ref}/template")->assertOk();
    $this->postJson("/api/documents/{$this->ref}/template/new")->assertNotFound();
});

it('destroys every version with the document', function () {
    ($this->newVersion)('The weir is shut on Tuesday.');
    $this->as('librarian')
        ->postJson('/api/removed', ['documents' => [$this->ref], 'reason' => 'Due'])
        ->assertOk();
    $this->as('manager')
        ->postJson('/api/removed/destroy', ['documents' => [$this->ref], 'reason' => 'Due'])
        ->assertOk();
    foreach (['The sluice is shut on Monday.', 'The weir is shut on Tuesday.'] as $contents) {
        expect(is_file(app(FileStore::class)->path(hash('sha256', $contents))))->toBeFalse();
    }
});

it('puts pages in, out, round and apart, as new versions and documents', function () {
    $pdf = static function (string ...$pages): string {
        $pdf = new App\Files\PagePdf();
        foreach ($pages as $page) {
            $pdf->AddPage();
            $pdf->Text(60, 60, $page);
        }

        return $pdf->Output('', 'S');
    };
    $stoppage = ['waterway' => ['tarn-sea'], 'document_date' => ['2024']];
    $ref = $this->filed($pdf('Alpha', 'Beta', 'Gamma'), 'three.pdf', 'stoppage_notice', $stoppage);
    $other = $this->filed($pdf('Delta', 'Epsilon'), 'two.pdf', 'stoppage_notice', $stoppage);
    $this->as('clerk');
    $page = static fn (int $page, string $source = '', int $turn = 0): array => compact('source', 'page', 'turn');
    $arrange = fn (array $pages, array $more = []) => $this->post(
        "/api/documents/{$ref}/pages",
        ['version' => 1, 'note' => 'Put right', 'pages' => json_encode($pages), ...$more],
        ['Accept' => 'application/json'],
    );
    $arrange([$page(1), $page(2), $page(3)])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', 'The pages are unchanged, so no version was made.');
    $arrange([$page(9)])->assertUnprocessable();
    $arrange([])->assertUnprocessable();
    $arrange([$page(1, 'D-99999-X')])->assertUnprocessable();
    $image = UploadedFile::fake()->image('scan.png', 300, 400);
    $arrange([$page(3), $page(1, turn: 90), $page(2, $other), $page(1, 'file-0')], ['files' => [$image]])
        ->assertOk()
        ->assertJsonPath('version', 2);
    $texts = fn (int $n): string => (string) $this->getJson("/api/documents/{$ref}/pages/{$n}")->json('pieces.0.0');
    expect($this->getJson("/api/documents/{$ref}")->json('page_count'))
        ->toBe(4)
        ->and($texts(1))
        ->toContain('Gamma')
        ->and($texts(2))
        ->toContain('Alpha')
        ->and($texts(3))
        ->toContain('Epsilon');
    $turned = $this->getJson("/api/documents/{$ref}/pages/2")->json();
    expect($turned['width'])
        ->toBeGreaterThan($turned['height'])
        ->and($this->getJson("/api/documents/{$ref}/versions")->json('versions.0'))
        ->toMatchArray(['note' => 'Put right', 'how' => 'pages rearranged']);
    $arrange([$page(1)])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m) => str_contains($m, 'in the meantime'));

    $split = $this->postJson("/api/documents/{$ref}/split", ['version' => 2, 'pages' => [2, 3]])
        ->assertCreated()
        ->json('ref');
    $made = $this->getJson("/api/documents/{$split}")->json();
    expect($made['state'])->toBe('waiting')->and($made['page_count'])->toBe(2)->and($made['file_name'])->toBe('three, pages 2, 3.pdf');
    // A text has no pages to work on.
    $this->post(
        "/api/documents/{$this->ref}/pages",
        ['version' => 1, 'pages' => json_encode([$page(1)])],
        ['Accept' => 'application/json'],
    )->assertUnprocessable();
});
