<?php

declare(strict_types=1);

use App\Backup\Backups;
use App\Files\FileStore;
use App\Fixity\Fixity;
use App\Models\Document;
use Illuminate\Support\Facades\DB;

/** The path of the file of a document. */
function storedAt(string $ref): string
{
    return app(FileStore::class)->path(Document::query()->where('ref', $ref)->firstOrFail()->sha256);
}

function readAll(): void
{
    Fixity::begin();
    expect(app(Fixity::class)->read(60))->toBeFalse();
}

beforeEach(fn () => config(['brenvic.fixity' => ['days' => 30, 'bytes_a_second' => 1_000_000_000]]));

it('reads every stored file again, and names what is damaged or missing with its documents', function () {
    [$whole, $damaged, $missing] = [stoppageOf('2001'), stoppageOf('2002'), stoppageOf('2003')];
    file_put_contents(storedAt($damaged), 'other');
    unlink(storedAt($missing));
    expect(Fixity::isDue())->toBeTrue();
    readAll();
    expect(Fixity::isDue())->toBeFalse();
    $health = $this->as('manager')->getJson('/api/oversight/health')->assertOk()->json('files');
    expect($health['round']['percent'])->toBe(100)->and($health['round']['ended_at'])->not->toBeNull();
    $faults = array_column(array_map(static fn (array $of): array => [...$of, 'ref' => $of['documents'][0]['ref']], $health['faults']), 'fault', 'ref');
    ksort($faults);
    expect($faults)->toBe([$damaged => 'damaged', $missing => 'missing']);
    expect($this->as('admin')->getJson('/api/office/health')->json('alarms'))->toHaveCount(2);
    // What is whole again is no fault any more.
    file_put_contents(storedAt($damaged), 'Stoppage of 2002');
    readAll();
    expect(DB::table('file_faults')->pluck('fault')->all())->toBe(['missing']);
    $this->as('clerk')->getJson('/api/oversight/health')->assertForbidden();
});

it('tells of documents only those that a person may see', function () {
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    unlink(storedAt($secret));
    readAll();
    expect($this->as('admin')->getJson('/api/oversight/health')->json('files.faults.0'))->toMatchArray(['fault' => 'missing', 'documents' => []]);
});

it('goes on where it was stopped, and begins anew when its days are over', function () {
    foreach (range(2001, 2006) as $year) {
        stoppageOf((string) $year);
    }
    Fixity::begin();
    config(['brenvic.fixity.bytes_a_second' => 100]);
    expect(app(Fixity::class)->read(0.3))->toBeTrue();
    $first = (int) DB::table('file_rounds')->value('files');
    expect($first)->toBeGreaterThan(0)->toBeLessThan(6);
    config(['brenvic.fixity.bytes_a_second' => 1_000_000_000]);
    expect(app(Fixity::class)->read(60))->toBeFalse()->and((int) DB::table('file_rounds')->value('files'))->toBe(6);
    expect(app(Fixity::class)->read(60))->toBeFalse()->and(DB::table('file_rounds')->count())->toBe(1);
    $this->travel(31)->days();
    expect(app(Fixity::class)->read(60))->toBeFalse()->and(DB::table('file_rounds')->count())->toBe(2);
});

it('brings a file back from the backup by one act, or says why not', function () {
    $ref = stoppageOf('2001');
    $path = storedAt($ref);
    $sha256 = basename($path);
    $restore = fn () => $this->as('manager')->postJson("/api/oversight/health/files/{$sha256}");
    $folder = config('brenvic.data').'-backups';
    config(['brenvic.backup.folder' => '']);
    file_put_contents($path, 'other');
    readAll();
    $restore()->assertStatus(422)->assertJsonPath('error.message', 'No backups are made here, so the file cannot be brought back.');
    file_put_contents($path, 'Stoppage of 2001');
    config(['brenvic.backup.folder' => $folder, 'brenvic.backup.key' => '']);
    // A backup keeps the files and a copy of the database; the contents are enough here.
    $backups = Backups::set();
    $keep = new ReflectionMethod($backups, 'files');
    $faults = [];
    $keep->invokeArgs($backups, [&$faults]);
    file_put_contents($path, 'other');
    $restore()->assertOk()->assertJsonPath('files.faults', []);
    expect(hash_file('sha256', $path))->toBe($sha256)->and(DB::table('history')->where('act', 'file_restored')->count())->toBe(1);
    App\Alarms\Alarms::clear('file');
    Illuminate\Support\Facades\File::deleteDirectory($folder);
    unlink($path);
    $restore()->assertStatus(422)->assertJsonPath('error.message', 'The backup does not have this file whole. Nothing was changed.');
});

it('makes the index anew from the interface', function () {
    stoppageOf('2001', [], 'The wharfinger.');
    $live = DB::table('ix_state')->value('live');
    $this->as('manager')->postJson('/api/oversight/health/index')->assertOk()->assertJsonPath('index.building', false);
    expect(DB::table('ix_state')->value('live'))->not->toBe($live)->and($this->search(['words' => 'wharfinger'])->json('total'))->toBe(1);
    $this->as('librarian')->postJson('/api/oversight/health/index')->assertForbidden();
});
