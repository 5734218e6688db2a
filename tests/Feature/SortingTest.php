<?php

declare(strict_types=1);

use App\Capture\LayText;
use App\Capture\ReadText;
use App\Files\FileStore;
use App\Models\Document;
use App\Models\Version;
use App\Support\ExternalProgram;
use Brenvic\Core\Pages\SeparatorCode;
use Illuminate\Support\Facades\DB;

const LETTER = 'The keeper of the sluice reports that the lower gate does not close and that water runs over the sill by day and by night. '
    .'He asks for timber, for two men and for a boat, and will go on with the work as soon as the frost is over. ';

/** @return array<string, mixed> */
function sortedPage(string $ref, int $page, array $more = []): array
{
    return ['source' => $ref, 'page' => $page, 'turn' => 0, 'straightened' => false, 'left_out' => false, ...$more];
}

it('sees blank pages, what lies askew, what is upside down, and separator sheets', function () {
    // The words are no matter here; without them nobody knows how many pages there are.
    Queue::fake([ReadText::class]);
    $stack = stackOf([
        new SeparatorCode('harbour', 'mooring_permit', 'DS-00012-X'),
        scanOf(LETTER.LETTER),
        scanOf(''),
        scanOf(LETTER.LETTER, 3.0),
        scanOf(LETTER.LETTER, 0.0, 180),
    ]);
    $ref = arrived($stack);
    Document::query()->where('ref', $ref)->update(['page_count' => 5]);
    // The first look asks for it; the worker of the tests does it at once.
    $this->getJson("/api/intake/pages?of[]={$ref}")->assertOk();
    $signs = $this->getJson("/api/intake/pages?of[]={$ref}")->assertOk()->json('documents.0.signs');
    expect(array_column($signs, 'blank'))->toBe([false, false, true, false, false])
        ->and(array_column($signs, 'separator'))->toBe([
            ['library' => 'harbour', 'type' => 'mooring_permit', 'dossier' => 'DS-00012-X'], null, null, null, null,
        ])
        ->and(array_column($signs, 'turn'))->toBe([0, 0, 0, 0, 180])
        ->and($signs[1]['skew'])->toBe(0)
        ->and(abs($signs[3]['skew'] - 3.0))->toBeLessThan(0.2)
        ->and(DB::table('page_looks')->count())->toBe(0);
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->getJson("/api/intake/pages?of[]={$ref}")->assertForbidden();
    }
    $this->as('librarian')->getJson("/api/intake/pages?of[]={$ref}")->assertNotFound();
});

it('makes documents of a stack, keeps all pages as they came, and puts the words into the PDF', function () {
    $stack = stackOf([
        scanOf('First letter. '.LETTER),
        scanOf(''),
        new SeparatorCode('harbour', 'mooring_permit', 'DS-00012-X'),
        scanOf('Second letter. '.LETTER, 2.5),
        scanOf('Enclosure. '.LETTER.LETTER, 0.0, 180),
    ]);
    $ref = arrived($stack);
    $this->getJson("/api/intake/pages?of[]={$ref}");
    $work = $this->postJson('/api/intake/pages', [
        'sources' => [$ref],
        'documents' => [
            ['pages' => [sortedPage($ref, 1), sortedPage($ref, 2, ['left_out' => true])]],
            [
                'pages' => [
                    sortedPage($ref, 3, ['left_out' => true]),
                    sortedPage($ref, 4, ['straightened' => true]),
                    sortedPage($ref, 5, ['turn' => 180]),
                ],
                'library' => 'harbour', 'type' => 'mooring_permit', 'dossier' => 'DS-00012-X',
            ],
        ],
    ])->assertOk()->json('work');
    [$first, $second] = $this->getJson('/api/intake')->assertOk()->json('documents');
    expect([$first['file_name'], $second['file_name']])->toBe(['stack.pdf', 'stack (2).pdf'])
        ->and([$first['page_count'], $second['page_count']])->toBe([1, 2])
        ->and($second['library']['code'])->toBe('harbour')
        ->and($second['type']['code'])->toBe('mooring_permit')
        ->and($second['proposed_dossier'])->toBe('DS-00012-X');
    $document = Document::query()->where('ref', $second['ref'])->firstOrFail();
    // What is seen of its pages is seen of the file with the words too.
    $this->getJson("/api/intake/pages?of[]={$second['ref']}")->assertOk()->assertJsonPath('documents.0.version', 2);
    expect(DB::table('pages')->where('document_id', $document->id)->where('number', 2)->value('text'))->toContain('keeper of the sluice');
    // Nothing is laid into what may still be turned. A copy of the state is filed, and taken back to go on.
    expect($document->wants_layer)->toBeTrue();
    $act = $this->postJson('/api/intake/file', [
        'documents' => [$second['ref']],
        'type' => 'mooring_permit',
        'values' => ['permit_number' => ['MP-2025-1187'], 'vessel' => ['Tern']],
    ])->assertOk()->json('act');
    $document->refresh();
    // Any program finds the words in the file itself, straight and upright, and the first version has all pages as they lay.
    $files = app(FileStore::class);
    $read = static fn (string $sha256): array => explode("\f", (string) shell_exec('pdftotext -layout '.escapeshellarg($files->path($sha256)).' -'));
    expect($document->wants_layer)->toBeFalse()->and($read($document->sha256))->toHaveCount(3);
    expect($read($document->sha256)[0])->toContain('Second letter')->and($read($document->sha256)[1])->toContain('Enclosure');
    $versions = Version::query()->where('document_id', $document->id)->orderBy('number')->get();
    expect($versions->pluck('page_count')->all())->toBe([3, 2])->and($versions[1]->sha256)->toBe($document->sha256);
    expect(shell_exec('pdfinfo '.escapeshellarg($files->path($versions[0]->sha256))))->toMatch('/Pages:\s+3/');
    $this->postJson("/api/document-acts/{$act}/undo")->assertOk();
    // The stack is no longer there; taken back, it is all there is.
    $this->getJson("/api/documents/{$ref}")->assertNotFound();
    $this->as('librarian')->postJson("/api/intake/pages/{$work}/undo")->assertNotFound();
    $this->as('clerk')->postJson("/api/intake/pages/{$work}/undo")->assertNoContent();
    expect(array_column($this->getJson('/api/intake')->json('documents'), 'ref'))->toBe([$ref]);
    $this->postJson("/api/intake/pages/{$work}/undo")->assertUnprocessable();
});

it('puts the words where they are seen, on pages that were turned too', function () {
    $ref = arrived(stackOf([scanOf('Sideways. '.LETTER, 0.0, 90), scanOf('Upright. '.LETTER)]));
    $this->postJson('/api/intake/pages', [
        'sources' => [$ref],
        'documents' => [['pages' => [sortedPage($ref, 2), sortedPage($ref, 1, ['turn' => 270])]]],
    ])->assertOk();
    $document = Document::query()->where('state', Document::WAITING)->firstOrFail();
    $this->postJson('/api/intake/file', [
        'documents' => [$document->ref],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
    ])->assertOk();
    $document->refresh();
    $path = app(FileStore::class)->path($document->sha256);
    $boxes = (string) shell_exec('pdftotext -bbox '.escapeshellarg($path).' -');
    // By another program, on both pages the heading stands at the left of the first line.
    preg_match_all('/xMin="([\d.]+)" yMin="([\d.]+)"[^>]*>(Sideways|Upright)\./', $boxes, $found, PREG_SET_ORDER);
    expect($found)->toHaveCount(2);
    foreach ($found as [, $x, $y]) {
        expect((float) $x)->toBeGreaterThan(50)->toBeLessThan(90)->and((float) $y)->toBeGreaterThan(60)->toBeLessThan(110);
    }
});

it('reads a page that was turned again, whatever was read of it before', function () {
    $ref = arrived(stackOf([scanOf('The wrong way up. '.LETTER, 0.0, 180)]));
    $document = Document::query()->where('ref', $ref)->firstOrFail();
    $document->update(['wants_layer' => true]);
    expect(DB::table('pages')->where('document_id', $document->id)->value('text'))->not->toContain('keeper of the sluice');
    $this->postJson('/api/intake/pages', ['sources' => [$ref], 'documents' => [['pages' => [sortedPage($ref, 1, ['turn' => 180])]]]])->assertOk();
    $made = Document::query()->where('state', Document::WAITING)->firstOrFail();
    expect(DB::table('pages')->where('document_id', $made->id)->value('text'))->toContain('keeper of the sluice');
});

it('joins pictures and PDFs, and leaves a document alone that nothing was done to', function () {
    ob_start();
    imagepng(scanOf('A photograph of the gate. '.LETTER));
    $picture = arrived((string) ob_get_clean(), 'gate.png');
    $stack = arrived(stackOf([scanOf('First. '.LETTER), scanOf('Last. '.LETTER)]));
    $alone = arrived(stackOf([scanOf('Alone. '.LETTER)]), 'alone.pdf');
    $this->postJson('/api/intake/pages', [
        'sources' => [$picture, $stack, $alone],
        'documents' => [
            ['pages' => [sortedPage($stack, 1), sortedPage($picture, 1), sortedPage($stack, 2)]],
            ['pages' => [sortedPage($alone, 1)]],
        ],
    ])->assertOk();
    $waiting = $this->getJson('/api/intake')->json('documents');
    expect(array_column($waiting, 'page_count', 'file_name'))->toEqual(['alone.pdf' => 1, 'stack.pdf' => 3])
        ->and(array_column($waiting, 'ref'))->toContain($alone);
    // Nothing at all is done, and nothing is to be taken back.
    $this->postJson('/api/intake/pages', ['sources' => [$alone], 'documents' => [['pages' => [sortedPage($alone, 1)]]]])
        ->assertOk()
        ->assertJsonPath('work', null);
});

it('loses no page, and refuses what was worked on or filed in the meantime', function () {
    $ref = arrived(stackOf([scanOf('One. '.LETTER), scanOf('Two. '.LETTER)]));
    $text = arrived('Not a page.', 'note.txt');
    $try = fn (array $documents, ?array $sources = null) => $this->as('clerk')->postJson(
        '/api/intake/pages',
        ['sources' => $sources ?? [$ref], 'documents' => $documents],
    );
    $wrong = [
        '1 page has no place any more' => [['pages' => [sortedPage($ref, 1)]]],
        'A page has two places' => [['pages' => [sortedPage($ref, 1), sortedPage($ref, 1), sortedPage($ref, 2)]]],
        'is none of these documents’' => [['pages' => [sortedPage($ref, 1), sortedPage($ref, 2), sortedPage($ref, 3)]]],
        'keeps at least one page' => [['pages' => [sortedPage($ref, 1), sortedPage($ref, 2)]], ['pages' => []]],
        'turned by quarters' => [['pages' => [sortedPage($ref, 1, ['turn' => 45]), sortedPage($ref, 2)]]],
    ];
    foreach ($wrong as $says => $documents) {
        $try($documents)->assertUnprocessable();
        $says === 'keeps at least one page' || $try($documents)->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, $says));
    }
    $both = [['pages' => [sortedPage($ref, 2), sortedPage($ref, 1)]]];
    $try([['pages' => [sortedPage($text, 1)]]], [$text])->assertUnprocessable();
    $try($both, ['D-99999-X'])->assertUnprocessable();
    expect(Document::query()->where('state', Document::WAITING)->pluck('ref')->all())->toEqualCanonicalizing([$ref, $text]);
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->postJson('/api/intake/pages', ['sources' => [$ref], 'documents' => $both])->assertForbidden();
        $this->getJson('/api/intake/separator-sheets')->assertForbidden();
        $this->postJson('/api/intake/pages/1/undo')->assertForbidden();
    }
    // Not what another person waits with.
    $this->as('librarian')->postJson('/api/intake/pages', ['sources' => [$ref], 'documents' => $both])->assertUnprocessable();
    $work = $try($both)->assertOk()->json('work');
    $made = $this->getJson('/api/intake')->json('documents.1.ref');
    $this->postJson('/api/intake/file', [
        'documents' => [$made],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
    ])->assertOk();
    $this->postJson("/api/intake/pages/{$work}/undo")->assertUnprocessable();
});

it('prints separator sheets that any reader of codes reads', function () {
    $pdf = $this->as('clerk')
        ->get('/api/intake/separator-sheets?library=harbour&type=mooring_permit&dossier=DS-00012-X&count=3')
        ->assertOk()
        ->assertHeader('Content-Type', 'application/pdf')
        ->getContent();
    $read = ExternalProgram::inFolder(static function (string $folder) use ($pdf): array {
        file_put_contents("{$folder}/s.pdf", $pdf);
        exec("pdftoppm -r 100 -gray {$folder}/s.pdf {$folder}/s && pdftotext {$folder}/s.pdf - ", $words);
        exec("zbarimg -q --raw {$folder}/s-*.pgm", $codes);

        return [implode("\n", $words), $codes];
    });
    expect($read[1])->toBe(array_fill(0, 6, 'brenvic:next?library=harbour&type=mooring_permit&dossier=DS-00012-X'))
        ->and($read[0])->toContain('Document type: Mooring permit');
    $this->get('/api/intake/separator-sheets?library=nowhere')->assertNotFound();
    $this->get('/api/intake/separator-sheets?type=nothing')->assertNotFound();
    $this->getJson('/api/intake/separator-sheets?count=900')->assertUnprocessable();
});

it('leaves a file as it is when the words cannot be put into it, and says so', function () {
    $ref = arrived(stackOf([scanOf(LETTER)]));
    $document = Document::query()->where('ref', $ref)->firstOrFail();
    $document->update(['wants_layer' => true, 'state' => Document::FILED]);
    (new LayText($document->id))->failed(null);
    expect($document->refresh()->text_reason)->toContain('Its words could not be put into the PDF')->and($document->wants_layer)->toBeFalse();
    $sha256 = $document->sha256;
    app()->call([new LayText($document->id), 'handle']);
    expect($document->refresh()->sha256)->toBe($sha256);
});
