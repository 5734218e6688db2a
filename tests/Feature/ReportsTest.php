<?php

declare(strict_types=1);

use App\Find\AskedSearches;
use App\History\Act;
use App\History\History;
use App\History\Readers;
use App\Models\Document;
use App\Models\KeptReport;
use App\Models\User;
use App\Reports\KeptReports;
use App\Reports\SeenOnly;
use App\Retrieve\Posting;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * A table of a report, its rows by what stands in their first cells.
 *
 * @return array<array-key, list<mixed>>
 */
function reported(string $report, string $table, string $query = '', string $by = 'manager'): array
{
    $tables = array_column(test()->as($by)->getJson("/api/oversight/reports/{$report}{$query}")->assertOk()->json('tables'), null, 'name');

    return array_column(array_column($tables[$table]['rows'], 'cells'), null, 0);
}

/** Another person who may oversee, with no more to see than any reader. */
function readersOversee(): void
{
    DB::table('roles')->where('code', 'reader')->update(['rights' => json_encode(['read', 'oversee', 'download'])]);
    app()->forgetScopedInstances();
}

function documentOf(string $ref): Document
{
    return Document::query()->where('ref', $ref)->firstOrFail();
}

/** A byelaw that readers may not see. */
function secretFiled(): string
{
    return test()->filed('Of the byelaw zirconia', 'b.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
}

function asks(string $words, string $by): int
{
    return test()->search(['words' => $words], $by)->assertOk()->json('total');
}

afterEach(fn () => Carbon::setTestNow());

it('sums what a person sees as if each had been asked for alone', function () {
    mt_srand(5);
    DB::statement('CREATE TEMPORARY TABLE sums (id INTEGER PRIMARY KEY, part TEXT, n INTEGER)');
    foreach (range(1, 12_000) as $id) {
        DB::table('sums')->insert(['id' => $id, 'part' => 'p'.mt_rand(1, 4), 'n' => mt_rand(1, 9)]);
    }
    $all = DB::table('sums')->get()->keyBy('id');
    foreach ([1, 3, 50, 97, 100, 0] as $percent) {
        $seen = $unseen = $naive = [];
        foreach ($all as $id => $row) {
            if (mt_rand(1, 100) <= $percent) {
                $seen[] = (int) $id;
                $naive[$row->part] = ($naive[$row->part] ?? 0) + $row->n;
            } else {
                $unseen[] = (int) $id;
            }
        }
        $sums = static fn (?array $ids) => DB::table('sums')
            ->when($ids !== null, static fn ($of) => $of->whereIntegerInRaw('id', $ids))
            ->groupBy('part')
            ->selectRaw('part, SUM(n) AS n')
            ->get();
        $sum = [];
        foreach (SeenOnly::of($seen, $unseen, $sums) as [$row, $sign]) {
            $sum[$row->part] = ($sum[$row->part] ?? 0) + $sign * (int) $row->n;
        }
        $sum = array_filter($sum);
        ksort($sum);
        ksort($naive);
        expect($sum)->toBe($naive);
    }
});

it('tells when and by whom documents are read, taken away, filed and changed, of those that the person sees', function () {
    config(['brenvic.backup.timezone' => 'Europe/Lisbon']);
    $open = stoppageOf('2001');
    $secret = secretFiled();
    Carbon::setTestNow('2026-07-15 09:20:00');
    foreach (['reader' => [$open], 'librarian' => [$open, $secret], 'manager' => [$secret]] as $person => $refs) {
        foreach ($refs as $ref) {
            $this->as($person)->getJson("/api/documents/{$ref}")->assertOk();
        }
    }
    Carbon::setTestNow('2026-07-16 23:30:00');
    History::record(Act::Delivered, User::query()->where('sign_in', 'reader')->first(), documentOf($open));
    $period = '?from=2026-07-10&until=2026-07-20';
    // In summer the office is an hour ahead of UTC.
    expect(reported('use', 'By day', $period)['2026-07-15'])->toBe(['2026-07-15', 4, 0, 0, 0])
        ->and(reported('use', 'By day', $period)['2026-07-17'])->toBe(['2026-07-17', 0, 1, 0, 0])
        ->and(reported('use', 'By day', $period))->toHaveCount(11)
        ->and(reported('use', 'By hour of the day', $period)['10'][1])->toBe(4)
        ->and(reported('use', 'By hour of the day', $period)['00'][2])->toBe(1)
        ->and(reported('use', 'By library', $period))->toBe([
            'Waterways' => ['Waterways', 2, 1, 0, 0, 2],
            'Board and byelaws' => ['Board and byelaws', 2, 0, 0, 0, 2],
        ])
        ->and(reported('use', 'By group', $period)['Everyone'])->toBe(['Everyone', 4, 1, 0, 0, 3])
        ->and(reported('use', 'By library', "{$period}&library=board"))->toBe(['Board and byelaws' => ['Board and byelaws', 2, 0, 0, 0, 2]])
        ->and(array_sum(array_column(reported('use', 'By month', '?from=2026-01-01&until=2026-12-31'), 1)))->toBe(4);
    readersOversee();
    expect(reported('use', 'By library', $period, 'reader'))->toBe(['Waterways' => ['Waterways', 2, 1, 0, 0, 2]])
        ->and(reported('use', 'By group', $period, 'reader'))->not->toHaveKey('Board office');
});

it('tells what was searched for, what was not found and what was tried next', function () {
    stoppageOf('2001', [], 'The towpath is shut at the winding hole.');
    Carbon::setTestNow('2026-07-15 09:20:00');
    expect(asks('towpath', 'reader'))->toBe(1)->and(asks('tow path', 'clerk'))->toBe(0);
    Carbon::setTestNow('2026-07-15 09:22:00');
    expect(asks('towpath', 'clerk'))->toBe(1);
    // Turned, sorted and asked again it is the same asking.
    asks('towpath', 'clerk');
    $this->search(['words' => 'towpath', 'offset' => 50], 'clerk');
    $this->search(['words' => 'towpath', 'rows_only' => true], 'clerk');
    $this->search(['words' => ''], 'clerk');
    Carbon::setTestNow('2026-07-15 15:00:00');
    asks('tow path', 'reader');
    Carbon::setTestNow('2026-07-16 15:00:00');
    asks('towpath', 'clerk');
    DB::table('asked_searches')->where('at', '2026-07-16 15:00:00')->update(['milliseconds' => 750]);
    $period = '?from=2026-07-14&until=2026-07-17';
    $nothing = reported('searches', 'Found nothing', $period);
    $search = array_key_first($nothing);
    expect($nothing)->toHaveCount(1)
        ->and($search)->toContain('tow')
        ->and($nothing[$search])->toBe([$search, 2, 2, '2026-07-15T15:00:00Z', 'contains towpath', 1])
        ->and(reported('searches', 'Words most asked for', $period))->toBe([
            'towpath' => ['towpath', 3, 2],
            'path' => ['path', 2, 2],
            'tow' => ['tow', 2, 2],
        ])
        ->and(array_values(reported('searches', 'By day', $period)))->toEqual([
            ['2026-07-14', 0, 0, 0, null],
            ['2026-07-15', 4, 2, 2, reported('searches', 'By day', $period)['2026-07-15'][4]],
            ['2026-07-16', 1, 0, 1, 750],
            ['2026-07-17', 0, 0, 0, null],
        ])
        ->and(array_values(reported('searches', 'Slow searches', $period)))->toBe([['contains towpath', 750, 3, '2026-07-16T15:00:00Z']]);
    // The row opens the search as it was asked.
    $rows = $this->as('manager')->getJson("/api/oversight/reports/searches{$period}")->json('tables.2.rows');
    $criteria = array_map(static fn (array $line): array => ['cql' => $line['cql'], 'negated' => $line['negated']], $rows[0]['search']['criteria']);
    expect($this->search(['criteria' => $criteria], 'manager')->json('total'))->toBe(0);
});

it('tells nobody of searches by which they would learn what they may not see', function () {
    secretFiled();
    stoppageOf('2001');
    asks('zirconia', 'librarian');
    asks('stoppage', 'reader');
    asks('library == board and confidentiality == confidential', 'manager');
    expect(array_keys(reported('searches', 'Words most asked for')))->toContain('zirconia', 'stoppage');
    readersOversee();
    expect(array_keys(reported('searches', 'Words most asked for', '', 'reader')))->toBe(['stoppage'])
        ->and(array_sum(array_column(reported('searches', 'By day', '', 'reader'), 1)))->toBe(1);
    // Whoever may see sensitive values is not told of to who may not, though they see the same documents.
    DB::table('roles')->where('code', 'clerk')->update(['rights' => json_encode(['read', 'sensitive'])]);
    app()->forgetScopedInstances();
    asks('notice', 'clerk');
    expect(array_keys(reported('searches', 'Words most asked for', '', 'reader')))->toBe(['stoppage']);
});

it('keeps nothing of what readers search for where the office does not want it, nor longer than it wants', function () {
    $manager = User::query()->where('sign_in', 'manager')->firstOrFail();
    Carbon::setTestNow('2026-01-10 09:00:00');
    asks('winch', 'reader');
    Carbon::setTestNow('2026-06-10 09:00:00');
    asks('sluice', 'reader');
    (new Readers(true, 3))->keep($manager);
    AskedSearches::forget();
    expect(DB::table('asked_searches')->pluck('cql')->all())->toHaveCount(1)->each->toContain('sluice');
    (new Readers(false))->keep($manager);
    asks('pound', 'reader');
    AskedSearches::forget();
    expect(DB::table('asked_searches')->count())->toBe(0)
        ->and($this->as('manager')->getJson('/api/oversight/reports/searches')->json('tables.0.says'))->toContain('not recorded any more');
});

it('does not keep searches by what each person has of their own', function () {
    foreach (['hold == h1', 'pull_list == 3 and lock', 'lock not hold == h1'] as $cql) {
        $this->search(['criteria' => [['cql' => $cql]]], 'manager')->assertOk();
    }
    expect(DB::table('asked_searches')->count())->toBe(0);
});

it('tells what came in by which way and day, and how long it waited', function () {
    source();
    Carbon::setTestNow('2026-07-14 08:00:00');
    $first = $this->upload('One', 'one.txt')->json('ref');
    $second = $this->upload('Two', 'two.txt')->json('ref');
    DB::table('documents')->where('ref', $second)->update(['source' => 'scans']);
    Carbon::setTestNow('2026-07-14 14:00:00');
    foreach ([$first, $second] as $ref) {
        $this->as('clerk')->postJson('/api/intake/file', [
            'documents' => [$ref], 'type' => 'stoppage_notice', 'values' => ['document_date' => ['2026'], 'waterway' => ['tarn-sea']],
        ])->assertOk();
    }
    secretFiled();
    $period = '?from=2026-07-10&until=2026-07-14';
    expect(reported('intake', 'By source', $period))->toEqualCanonicalizing([
        'Brought by people' => ['Brought by people', 2, 0, 2, 6],
        'Scans of the office' => ['Scans of the office', 1, 0, 1, 6],
    ])->and(reported('intake', 'By day', $period)['2026-07-14'])->toBe(['2026-07-14', 3, 2, 1])
        ->and(reported('intake', 'By source', "{$period}&library=harbour"))->toBe([]);
    readersOversee();
    expect(reported('intake', 'By day', $period, 'reader')['2026-07-14'][1])->toBe(2);
});

it('tells what files take, as a sum over each document that a person sees', function () {
    stoppageOf('2001');
    stoppageOf('2002', [], str_repeat('A long notice. ', 50));
    secretFiled();
    readersOversee();
    foreach (['manager', 'reader'] as $by) {
        $seen = array_column($this->search(['words' => '', 'limit' => 100], $by)->json('rows'), 'ref');
        $bytes = (int) Document::query()->whereIn('ref', $seen)->sum('bytes');
        $kinds = reported('storage', 'By kind', '', $by);
        expect($kinds['Plain text'])->toBe(['Plain text', count($seen), $bytes, 100])
            ->and(array_sum(array_column(reported('storage', 'By age', '', $by), 2)))->toBe($bytes)
            ->and(array_sum(array_column(reported('storage', 'Growth', '', $by), 2)))->toBe($bytes);
    }
    expect(reported('storage', 'By kind', '?library=harbour'))->toBe([]);
    $days = array_map(
        static fn (int $i): array => ['day' => "2026-07-{$i}", 'used' => $i * 1_000_000_000, 'all' => 40_000_000_000],
        range(10, 20),
    );
    DB::table('disk_days')->insert($days);
    $disk = collect($this->as('manager')->getJson('/api/oversight/reports/storage')->json('tables'))->firstWhere('name', 'The disk of the documents');
    expect($disk['says'])->toBe('At the rate of these days it is full on 9 Aug 2026.')->and($disk['rows'][10]['cells'])->toBe(['2026-07-20', 20_000_000_000, 20_000_000_000]);
});

it('notes once a day what is used of the disk', function () {
    Illuminate\Support\Facades\File::ensureDirectoryExists((string) config('brenvic.data'));
    App\Health\DiskDays::note();
    App\Health\DiskDays::note();
    $days = App\Health\DiskDays::latest(5);
    $all = (int) disk_total_space((string) config('brenvic.data'));
    expect($days)->toHaveCount(1);
    foreach ($days as $day) {
        expect(abs($day['all'] - $all))->toBeLessThan(200_000_000)->and($day['used'])->toBeLessThanOrEqual($day['all'])->toBeGreaterThan(0);
    }
});

it('is a spreadsheet with a sheet for each table, and a table of CSV', function () {
    asks('winch', 'reader');
    $answer = $this->as('manager')->get('/api/oversight/reports/searches.ods')->assertOk();
    $files = unpackedZip($answer->baseResponse->getFile()->getPathname());
    $document = new DOMDocument;
    expect($document->loadXML($files['content.xml']))->toBeTrue()
        ->and($document->getElementsByTagNameNS('urn:oasis:names:tc:opendocument:xmlns:table:1.0', 'table')->length)->toBe(4)
        ->and($files['mimetype'])->toBe('application/vnd.oasis.opendocument.spreadsheet');
    $csv = (string) $this->get('/api/oversight/reports/searches.csv?table=1')->assertOk()->assertHeader('Content-Disposition', 'attachment; filename="searches-words-most-asked-for.csv"')->getContent();
    expect($csv)->toBe("Word,Searches,People\r\nwinch,1,1\r\n");
    $this->get('/api/oversight/reports/searches.csv?table=9')->assertNotFound();
    $this->getJson('/api/oversight/reports/nothing')->assertNotFound();
    $this->getJson('/api/oversight/reports/use?from=2026-02-02&until=2026-02-01')->assertUnprocessable()->assertJsonPath('error.fields.until', 'The last day is before the first.');
    $this->getJson('/api/oversight/reports/use?library=vault')->assertUnprocessable();
    foreach (['librarian', 'clerk', 'reader', 'admin'] as $other) {
        foreach (['', '/use', '/use.csv', '/use.ods'] as $path) {
            $this->as($other)->getJson("/api/oversight/reports{$path}")->assertForbidden();
        }
    }
});

it('is sent every month to those who may oversee, to each with what they see', function () {
    readersOversee();
    DB::table('users')->where('sign_in', 'manager')->update(['mail' => 'manager@tarnwick.example']);
    stoppageOf('2001');
    secretFiled();
    Carbon::setTestNow('2026-11-20 10:00:00');
    $this->as('manager')->postJson('/api/oversight/reports/kept', ['report' => 'quality', 'people' => ['librarian']])->assertUnprocessable();
    $this->postJson('/api/oversight/reports/kept', ['report' => 'nothing', 'people' => ['manager']])->assertUnprocessable();
    $kept = $this->postJson('/api/oversight/reports/kept', ['report' => 'storage', 'library' => 'board', 'type' => 'byelaw', 'people' => ['manager', 'reader']])
        ->assertCreated()
        ->json('kept');
    expect($kept)->toHaveCount(1)->and($kept[0]['library'])->toBe('board')->and($kept[0]['type'])->toBeNull();
    // This month is not over.
    KeptReports::begin();
    expect(DB::table('outbox')->count())->toBe(0);
    Carbon::setTestNow('2026-12-01 07:30:00');
    KeptReports::begin();
    KeptReports::begin();
    $mail = DB::table('outbox')->get();
    expect($mail)->toHaveCount(1)
        ->and($mail[0]->to)->toBe('manager@tarnwick.example')
        ->and($mail[0]->subject)->toBe('The report “Storage, November 2026” is ready.')
        ->and($mail[0]->file_name)->toBe('storage-2026-11.ods')
        ->and($mail[0]->text)->toContain('/oversight/reports/storage?library=board&from=2026-11-01&until=2026-11-30');
    // The reader may not enter that library, so that there is nothing to tell them.
    expect(DB::table('notices')->where('kind', 'report')->pluck('user_id')->all())->toBe([User::query()->where('sign_in', 'manager')->value('id')]);
    file_put_contents($path = tempnam(sys_get_temp_dir(), 'ods'), $mail[0]->file);
    expect(unpackedZip($path)['content.xml'])->toContain('Plain text');
    unlink($path);
    $this->as('reader')->deleteJson("/api/oversight/reports/kept/{$kept[0]['id']}")->assertNotFound();
    expect($this->as('manager')->deleteJson("/api/oversight/reports/kept/{$kept[0]['id']}")->assertOk()->json('kept'))->toBe([]);
    expect(KeptReport::query()->count())->toBe(0)->and(Posting::isSet())->toBeFalse();
});
