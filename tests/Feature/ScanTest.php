<?php

declare(strict_types=1);

use App\Capture\ReadText;
use App\Models\Document;
use App\Models\Scan;
use App\Scanning\ScanStack;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

require_once __DIR__.'/../scan-server.php';

const SETTINGS = ['scanner' => 'scans', 'dots' => 100, 'colour' => false, 'duplex' => false, 'fed' => true];

beforeEach(function () {
    // Reading a dozen scanned pages takes longer than all of this; how scans are read is tried elsewhere.
    Queue::fake([ReadText::class]);
    $this->scanner = new ScanServer();
    $this->scanner->start();
    config(['brenvic.scanners' => ['office' => "http://127.0.0.1:{$this->scanner->port}/eSCL"]]);
    source(['way' => 'scanner', 'scanner' => 'office', 'folder' => '', 'type' => null]);
});

afterEach(fn () => $this->scanner->stop());

it('scans a stack page by page, stops at a jam with what came, goes on, and makes one document of it', function () {
    expect(array_column($this->as('clerk')->getJson('/api/intake/scanners')->assertOk()->json('scanners'), 'name', 'code'))
        ->toBe(['office_scanner' => 'Scanner of the office', 'scans' => 'Scans of the office']);
    $this->getJson('/api/intake/scanners/scans')->assertOk()->assertExactJson([
        'model' => 'Simulated office scanner',
        'resolutions' => [100, 150, 200, 300],
        'colour' => true, 'feeder' => true, 'glass' => false, 'duplex' => true,
    ]);
    $id = $this->postJson('/api/intake/scans', SETTINGS)->assertCreated()->json('id');
    // The worker of the tests has done it at once, up to the jam.
    $this->getJson("/api/intake/scans/{$id}")->assertOk()->assertJson([
        'state' => 'stopped',
        'says' => 'Paper is jammed in the feeder. Take it out, lay what is left in again, and go on.',
        'pages' => 9,
    ]);
    $first = $this->get("/api/intake/scans/{$id}/pages/1")->assertOk()->assertHeader('Content-Type', 'image/jpeg');
    expect((array) getimagesize($first->baseResponse->getFile()->getPathname()))->toMatchArray([826, 1169]);
    $this->getJson("/api/intake/scans/{$id}/pages/10")->assertNotFound();
    expect(Document::query()->where('state', Document::WAITING)->count())->toBe(0);
    $this->postJson("/api/intake/scans/{$id}/go-on")->assertStatus(202)->assertJsonPath('state', 'done');
    $waiting = $this->getJson('/api/intake')->json('documents');
    expect($waiting)->toHaveCount(1)
        ->and($waiting[0]['page_count'])->toBe(13)
        ->and($waiting[0]['source'])->toBe('Scans of the office')
        ->and($waiting[0]['file_name'])->toMatch('/^Scan of .*\.pdf$/');
    // Its words are to be put into it, and its separator sheets are seen.
    $document = Document::query()->where('ref', $waiting[0]['ref'])->firstOrFail();
    expect($document->wants_layer)->toBeTrue();
    $this->getJson("/api/intake/pages?of[]={$document->ref}");
    $signs = $this->getJson("/api/intake/pages?of[]={$document->ref}")->json('documents.0.signs');
    expect(array_values(array_filter(array_map(static fn (array $s): ?string => $s['separator']['type'] ?? null, $signs))))
        ->toBe(['lock_inspection', 'mooring_permit', 'quotation', 'weed_silt_report', 'stoppage_notice'])
        ->and($signs[4]['turn'])->toBe(180);
    expect(DB::table('scan_pages')->count())->toBe(0);
});

it('lets what came be kept or thrown away, and shows it to nobody else', function () {
    $id = $this->as('clerk')->postJson('/api/intake/scans', SETTINGS)->assertCreated()->json('id');
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->getJson('/api/intake/scanners')->assertForbidden();
        $this->postJson('/api/intake/scans', SETTINGS)->assertForbidden();
        $this->getJson("/api/intake/scans/{$id}/pages/1")->assertForbidden();
    }
    $this->as('librarian');
    foreach (["/api/intake/scans/{$id}", "/api/intake/scans/{$id}/pages/1"] as $address) {
        $this->getJson($address)->assertNotFound();
    }
    $this->postJson("/api/intake/scans/{$id}/keep")->assertNotFound();
    $this->deleteJson("/api/intake/scans/{$id}")->assertNotFound();
    $this->as('clerk')->postJson("/api/intake/scans/{$id}/keep")->assertOk()->assertJsonPath('state', 'done');
    expect($this->getJson('/api/intake')->json('documents.0.page_count'))->toBe(9);
    // Asked for twice, it is there once.
    $this->postJson("/api/intake/scans/{$id}/keep")->assertOk()->assertJsonPath('document', $this->getJson('/api/intake')->json('documents.0.ref'));
    expect($this->getJson('/api/intake')->json('total'))->toBe(1);
    // The rest of the stack is another scan, which is thrown away.
    Queue::fake();
    $next = $this->postJson('/api/intake/scans', [...SETTINGS, 'duplex' => true])->assertCreated()->json('id');
    $this->postJson('/api/intake/scans', SETTINGS)->assertUnprocessable();
    $this->deleteJson("/api/intake/scans/{$next}")->assertNoContent();
    $this->getJson("/api/intake/scans/{$next}")->assertNotFound();
});

it('says when a scanner dies, is none, or is not named, and loses nothing that came', function () {
    $id = $this->as('clerk')->postJson('/api/intake/scans', SETTINGS)->assertCreated()->json('id');
    $this->scanner->stop();
    $this->postJson("/api/intake/scans/{$id}/go-on")->assertStatus(202)->assertJson([
        'state' => 'stopped',
        'pages' => 9,
        'says' => 'The scanner “Scans of the office” does not answer. Is it on?',
    ]);
    $this->getJson('/api/intake/scanners/scans')->assertUnprocessable();
    config(['brenvic.scanners' => []]);
    $this->postJson("/api/intake/scans/{$id}/go-on")->assertJsonPath('says', fn (string $s): bool => str_contains($s, 'name no scanner “office”'));
    (new ScanStack($id))->failed(null);
    // Only what is running is given up.
    expect(Scan::query()->findOrFail($id)->says)->toContain('name no scanner');
    $this->postJson("/api/intake/scans/{$id}/keep")->assertOk();
    expect($this->getJson('/api/intake')->json('documents.0.page_count'))->toBe(9);
    $this->getJson('/api/intake/scanners/other')->assertNotFound();
});

it('goes on with the scanner’s own job after it was killed', function () {
    Queue::fake();
    $id = $this->as('clerk')->postJson('/api/intake/scans', SETTINGS)->assertCreated()->json('id');
    $scan = Scan::query()->findOrFail($id);
    $address = "http://127.0.0.1:{$this->scanner->port}";
    // As if the worker was killed after it had begun: the scanner is at work on it.
    $begun = Illuminate\Support\Facades\Http::withBody('<s><XResolution>100</XResolution><InputSource>Feeder</InputSource></s>', 'text/xml')
        ->post("{$address}/eSCL/ScanJobs");
    $scan->update(['job' => $address.$begun->header('Location')]);
    app()->call([new ScanStack($id), 'handle']);
    $this->getJson("/api/intake/scans/{$id}")->assertJson(['state' => 'stopped', 'pages' => 9]);
});
