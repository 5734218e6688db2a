<?php

declare(strict_types=1);

use App\Alarms\Alarms;
use App\Faults\FailedWork;
use App\Health\Tools;
use App\Index\CompareIndex;
use App\Index\Comparison;
use App\Models\Document;
use App\Models\Loan;
use App\Support\Outbox;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Http;
use Illuminate\Support\Facades\Queue;

/** @return array<string, mixed> */
function healthTold(string $by = 'manager'): array
{
    return test()->as($by)->getJson('/api/oversight/health')->assertOk()->json();
}

/** @return list<string> references of the documents that are not indexed as they are */
function differingNow(string $by = 'manager'): array
{
    $refs = array_column(healthTold($by)['index']['comparison']['documents'], 'ref');
    sort($refs);

    return $refs;
}

function compared(): void
{
    Comparison::begin();
    expect(app(Comparison::class)->goOn(60))->toBeFalse();
}

function idOf(string $ref): int
{
    return (int) DB::table('documents')->where('ref', $ref)->value('id');
}

it('holds the index against the documents and names those that differ, in whatever way', function () {
    $refs = array_map(static fn (int $year): string => stoppageOf((string) $year), range(2001, 2006));
    expect(healthTold()['index']['comparison'])->toBeNull();
    $this->as('manager')->postJson('/api/oversight/health/index/compare')->assertOk()->assertJsonPath('index.comparison.percent', 100)
        ->assertJsonPath('index.comparison.differing', 0);
    // One that is not there, one that says something else, one that is not filed, one that stands wrongly under a key.
    DB::table('ix0_record')->where('document', idOf($refs[0]))->delete();
    DB::table('documents')->where('ref', $refs[1])->update(['title' => 'Renamed behind its back']);
    DB::table('documents')->where('ref', $refs[2])->update(['state' => Document::WAITING]);
    compared();
    expect(differingNow())->toBe([$refs[0], $refs[1], $refs[2]])
        ->and(DB::table('index_faults')->orderBy('document_id')->pluck('document_id')->all())->toBe([idOf($refs[0]), idOf($refs[1]), idOf($refs[2])])
        ->and(array_column(Alarms::open(), 'kind'))->toContain('index');
    DB::table('documents')->where('ref', $refs[1])->update(['title' => 'Stoppage-2002']);
    $this->as('manager')->postJson('/api/oversight/health/index')->assertOk();
    compared();
    expect(differingNow())->toBe([])->and(array_column(Alarms::open(), 'kind'))->not->toContain('index');
    DB::statement("DELETE FROM ix1_blob WHERE (id >> 24) & 67108863 = (SELECT number FROM ix1_space WHERE name = 'v/type/')");
    compared();
    expect(differingNow())->not->toBe([]);
    foreach (['librarian', 'clerk', 'reader'] as $other) {
        $this->as($other)->postJson('/api/oversight/health/index/compare')->assertForbidden();
    }
});

it('goes on comparing where it was stopped, and begins once', function () {
    foreach (range(1, 3) as $i) {
        stoppageOf("200{$i}");
    }
    Queue::fake();
    Comparison::begin();
    Comparison::begin();
    expect(DB::table('index_checks')->count())->toBe(1);
    // Not even one piece: it says how far it is, and that it is not done.
    expect(app(Comparison::class)->goOn(0.0))->toBeTrue()->and(healthTold()['index']['comparison']['percent'])->toBeLessThan(100);
    $job = new CompareIndex;
    DB::table('index_checks')->update(['went_on_at' => now()->subHour()]);
    expect(CompareIndex::unfinished(now()->subMinutes(5)))->toBe([$job->about()]);
    $job->handle(app(Comparison::class));
    expect(healthTold()['index']['comparison']['ended_at'])->not->toBeNull()->and(CompareIndex::unfinished(now()->subMinutes(5)))->toBe([]);
    $job->failed(null);
    expect(array_column(Alarms::open(), 'says'))->toContain('The index is not compared with the documents: it was stopped twice, by running out of time or memory.');
});

it('tells of documents that differ only those that a person may see', function () {
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    DB::table('ix0_record')->where('document', idOf($secret))->delete();
    compared();
    // That something is amiss is said to all who look after it; with what it is, is not.
    expect(differingNow())->toBe([$secret])->and(healthTold('admin')['index']['comparison'])->toMatchArray(['agrees' => false, 'differing' => 0, 'documents' => []])
        ->and(array_column(Alarms::open(), 'kind'))->toContain('index');
});

it('tells what failed lately of documents that a person sees, and does it again', function () {
    $text = stoppageOf('2001');
    $loan = stoppageOf('2002');
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $failed = ['text_state' => Document::TEXT_NONE, 'text_reason' => 'The text could not be read: the disk is full.'];
    DB::table('documents')->whereIn('ref', [$text, $secret])->update($failed);
    // A file that has no text has not failed.
    DB::table('documents')->where('ref', stoppageOf('2003'))->update(['text_state' => Document::TEXT_NONE, 'text_reason' => 'No words were found in the file.']);
    $this->as('clerk')->postJson("/api/documents/{$loan}/loans", ['borrower' => 'Holm Masonry'])->assertOk();
    Loan::query()->update(['says' => 'It is due and could not be brought back: the disk is full. Bring it back by hand.']);
    $told = array_column(healthTold()['failed'], null, 'what');
    expect(array_column(array_column(healthTold()['failed'], 'document'), 'ref'))->toEqualCanonicalizing([$text, $secret, $loan])
        ->and($told['loan']['again'])->toBeTrue()
        ->and(array_column(array_column(healthTold('admin')['failed'], 'document'), 'ref'))->toEqualCanonicalizing([$text, $loan]);
    $again = fn (string $what, string $ref, string $by = 'manager') => $this->as($by)->postJson('/api/oversight/health/again', ['what' => $what, 'document' => $ref]);
    $again('text', $secret, 'admin')->assertNotFound();
    $again('text', $loan)->assertUnprocessable();
    $again('case', $text)->assertUnprocessable();
    $again('text', $text, 'librarian')->assertForbidden();
    $again('text', $text)->assertOk();
    expect(Document::query()->where('ref', $text)->value('text_state'))->toBe(Document::TEXT_READ)
        ->and(foundBy('text = Stoppage and text_state == read', 'manager'))->toContain($text);
    $again('loan', $loan)->assertOk();
    expect(Loan::query()->value('state'))->toBe(Loan::RETURNED);
    expect(array_column(array_column(app(FailedWork::class)->of(App\Models\User::query()->where('sign_in', 'manager')->firstOrFail()), 'document'), 'ref'))->toBe([$secret]);
});

it('tells how sources fare, and has one that waits looked at with the next look', function () {
    source(['way' => 'folder', 'folder' => 'scans']);
    freshRoutes();
    DB::table('source_states')->insert(['source' => 'scans', 'says' => 'The folder cannot be read.', 'tries' => 9, 'again_at' => now()->addMinutes(9), 'looked_at' => now()]);
    $scans = fn (string $by = 'manager'): array => collect(healthTold($by)['sources'])->firstWhere('code', 'scans');
    expect($scans())->toMatchArray(['name' => 'Scans of the office', 'way' => 'folder', 'says' => 'The folder cannot be read.'])->and($scans()['again_at'])->not->toBeNull();
    $this->as('manager')->postJson('/api/oversight/health/sources/scans')->assertOk();
    expect($scans()['again_at'])->toBeNull();
    $this->postJson('/api/oversight/health/sources/nothing')->assertNotFound();
    // Sources of libraries that one may not enter are not there.
    DB::table('group_library')->where('library_id', $this->libraryId('waterways'))->delete();
    app()->forgetScopedInstances();
    expect(collect(healthTold()['sources'])->firstWhere('code', 'scans'))->toBeNull();
    $this->postJson('/api/oversight/health/sources/scans')->assertNotFound();
});

it('tells how repositories elsewhere answered last, and asks one now', function () {
    expect(healthTold()['remotes'][0])->toMatchArray(['code' => 'survey_exchange', 'last' => null]);
    Http::fake(fn () => Http::response('', 500));
    $this->as('manager')->postJson('/api/oversight/health/remotes/survey_exchange')->assertOk()
        ->assertJsonPath('remotes.0.last.says', 'Survey Exchange answers with an error (500).');
    expect(healthTold()['remotes'][0]['last']['milliseconds'])->toBeInt();
    $this->postJson('/api/oversight/health/remotes/nothing')->assertNotFound();
});

it('says that mail was given up, and sends it again', function () {
    config(['brenvic.smtp' => 'smtp://127.0.0.1:1']);
    Outbox::put(1, 'somebody@tarnwick.example', 'x', 'y');
    DB::table('outbox')->update(['tries' => 8, 'says' => 'No such person']);
    Alarms::raise('mail', 'A message could not be sent.');
    expect(healthTold()['mail_given_up'])->toBeTrue();
    $this->as('manager')->postJson('/api/oversight/health/mail')->assertOk()->assertJsonPath('mail_given_up', false);
    expect(DB::table('outbox')->value('tries'))->toBe(0)->and(Alarms::open())->toBe([]);
});

it('knows the programs that the machine has, and their versions', function () {
    expect(healthTold()['tools'])->toBe([]);
    Tools::note();
    $tools = array_column(healthTold()['tools'], 'version', 'name');
    expect($tools['PHP'])->toBe(PHP_VERSION)->and($tools['sqlite'])->toBe(DB::connection()->getPdo()->query('SELECT sqlite_version()')->fetchColumn());
    preg_match('/\d+\.\d+\.\d+/', (string) shell_exec('qpdf --version'), $qpdf);
    expect($tools['qpdf'])->toBe($qpdf[0]);
});

it('finds the version in what a program says of itself', function (string $said, string $version) {
    expect(Tools::versionIn($said))->toBe($version);
})->with([
    ["tesseract 5.3.0\n leptonica-1.82.0", '5.3.0'],
    ['qpdf version 11.3.0', '11.3.0'],
    ['LIBTIFF, Version 4.5.0', '4.5.0'],
    ["\nuchardet Command Line Tool\nVersion 0.0.7\n", '0.0.7'],
    ['LibreOffice 7.4.7.2 40(Build:2)', '7.4.7.2'],
    ['Usage: program file', ''],
]);
