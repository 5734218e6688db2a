<?php

declare(strict_types=1);

use App\Import\WorkOnBringing;
use App\Models\Bringing;
use App\Models\BringingRow;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\ImportFile;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;

/**
 * Letters about jobs; a job has a bridge and lasts some weeks.
 *
 * @return list<list<string>>
 */
function jobLetters(): array
{
    $rows = [['File', 'Written', 'Job no.', 'Bridge', 'Kind of letter', 'Sheets']];
    foreach (range(1, 160) as $i) {
        $job = $i % 32;
        $rows[] = [
            sprintf('L%04d', $i),
            date('d/m/Y', 1_500_000_000 + 86_400 * (90 * $job + intdiv($i, 32) * 3)),
            sprintf('J-%04d-%d', 100 + $job, $job),
            'Bridge '.chr(65 + $job % 7),
            ['Offer', 'Order', 'Report'][$i % 3],
            (string) (1 + $i * 7 % 40),
        ];
    }

    return $rows;
}

/** @param  list<string>  $paths */
function lookAtFiles(array $paths): TestResponse
{
    return test()->post(
        '/api/design/bringing',
        ['library' => 'harbour', 'file' => UploadedFile::fake()->createWithContent('paths', implode("\n", $paths))],
        ['Accept' => 'application/json'],
    );
}

/** @param  array<string, string>  $files  contents by path */
function bring(array $files): TestResponse
{
    return test()->post(
        '/api/design/bringing/files',
        [
            'sources' => array_keys($files),
            'files' => array_map(
                static fn (string $path, string $text): UploadedFile => UploadedFile::fake()->createWithContent(basename($path), $text),
                array_keys($files),
                $files,
            ),
        ],
        ['Accept' => 'application/json'],
    );
}

/** @return array<string, int> */
function outcomes(): array
{
    return array_column(test()->getJson('/api/design/bringing')->assertOk()->json('bringing.counts'), 'count', 'outcome');
}

function valueIn(string $file, string $field): ?string
{
    $value = DB::table('effective_values as v')
        ->join('fields as f', 'f.id', '=', 'v.field_id')
        ->join('documents as d', 'd.id', '=', 'v.document_id')
        ->whereNull('d.deleted_at')
        ->where('d.file_name', $file)
        ->where('f.code', $field)
        ->value('v.value');

    return is_string($value) ? $value : null;
}

it('looks at what would come in, brings it in by the register, into its dossiers, and takes it back as one act', function () {
    accepted(jobLetters());
    $paths = ['old/L0001.txt', 'old/L0033.txt', 'new/L0002.txt', 'new/readme.txt'];
    lookAtFiles($paths)->assertStatus(202);
    expect(outcomes())->toBe(['missing' => 157, 'new' => 3, 'rest' => 1])->and(Document::query()->where('file_name', 'like', 'L0%')->count())->toBe(0);
    // Nothing comes in before it is begun.
    expect($this->getJson('/api/design/bringing/wanted')->json('sources'))->toBe([]);
    bring(['old/L0001.txt' => 'One'])->assertUnprocessable();

    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk()->assertJsonPath('bringing.state', 'open');
    expect($this->getJson('/api/design/bringing/wanted')->json('sources'))->toBe(['old/L0001.txt', 'old/L0033.txt', 'new/L0002.txt']);
    expect($this->getJson('/api/design/bringing/wanted?after=old/L0001.txt')->json('sources'))->toBe(['old/L0033.txt', 'new/L0002.txt']);
    bring(['old/L0001.txt' => 'Letter one', 'new/readme.txt' => 'not wanted', 'nowhere.txt' => 'never asked for'])->assertOk();
    expect(outcomes())->toBe(['in' => 1, 'missing' => 157, 'new' => 2, 'rest' => 1]);
    // The same once more, as after a broken connection: nothing comes twice.
    bring(['old/L0001.txt' => 'Letter one', 'old/L0033.txt' => 'Letter thirty-three'])->assertOk();
    bring(['new/L0002.txt' => 'Letter two'])->assertOk();
    $this->postJson('/api/design/bringing/finish')->assertOk()->assertJsonPath('bringing.state', 'done');

    expect(valueIn('L0001.txt', 'written'))->toBe('2017-10-12')
        ->and(valueIn('L0001.txt', 'bridge'))->toBe('bridge_b')
        ->and(valueIn('L0033.txt', 'job_no'))->toBe(valueIn('L0001.txt', 'job_no'))
        ->and(Document::query()->where('file_name', 'like', 'L0%')->count())->toBe(3);
    // Two of them are of one job: one dossier, which hands down its number and bridge.
    $dossiers = Dossier::query()->where('kind', 'job')->get();
    expect($dossiers)->toHaveCount(2)->and($dossiers->first()->documents()->count())->toBe(2);
    $own = DB::table('document_values')->join('documents', 'documents.id', '=', 'document_id')->join('fields', 'fields.id', '=', 'field_id');
    expect($own->where('file_name', 'L0001.txt')->pluck('code')->all())->not->toContain('job_no', 'bridge');
    expect($this->search(['words' => 'bridge == "Bridge B"'], 'librarian')->json('total'))->toBe(2);

    $act = collect($this->getJson('/api/acts')->json('acts'))->first();
    expect($act)->toMatchArray(['says' => 'Brought in by letters_2024.csv', 'documents' => 3, 'undoable' => true]);
    // Somebody works on one of them: that one stays.
    $ref = Document::query()->where('file_name', 'L0002.txt')->value('ref');
    DB::table('documents')->where('ref', $ref)->update(['lock_version' => 9]);
    $this->postJson('/api/design/bringing/undo')->assertOk()->assertExactJson(['undone' => 2, 'left' => 1]);
    expect(Document::query()->where('file_name', 'like', 'L0%')->pluck('file_name')->all())->toBe(['L0002.txt'])
        ->and($this->search(['words' => 'bridge == "Bridge B"'], 'librarian')->json('total'))->toBe(0)
        ->and($this->getJson('/api/design/bringing')->json('bringing'))->toBeNull();
    // And can come in again.
    lookAtFiles($paths);
    expect(outcomes())->toMatchArray(['new' => 2, 'known' => 1]);
});

it('takes back what came in by a request that was cut off before it was noted, and nothing that others brought in', function () {
    accepted(jobLetters());
    lookAtFiles(['L0001.txt', 'L0002.txt']);
    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk();
    bring(['L0001.txt' => 'One'])->assertOk();
    $row = BringingRow::query()->where('source', 'L0001.txt')->firstOrFail();
    $document = $row->document_id;
    $row->update(['outcome' => BringingRow::NEW, 'document_id' => null, 'lock_version' => null]);
    // The other one is brought in by somebody else meanwhile.
    $sha = hash('sha256', 'Two');
    $other = Document::query()->findOrFail($document)->replicate(['ref']);
    $other->fill(['file_name' => 'L0002.txt', 'created_by' => null, 'ref' => 'OTHER'])->save();
    ImportFile::query()->create(['library_id' => $other->library_id, 'source' => 'L0002.txt', 'sha256' => $sha, 'document_id' => $other->id]);
    bring(['L0001.txt' => 'One', 'L0002.txt' => 'Two'])->assertOk();
    // What that one has not, its row fills in; both are undone as what they were.
    expect(outcomes())->toMatchArray(['in' => 1, 'altered' => 1])->and(valueIn('L0002.txt', 'sheets'))->toBe('15');
    $this->postJson('/api/design/bringing/undo')->assertOk()->assertExactJson(['undone' => 2, 'left' => 0]);
    expect(valueIn('L0002.txt', 'sheets'))->toBeNull();
    expect(Document::query()->whereKey([$document, $other->id])->pluck('id')->all())->toBe([$other->id]);
});

it('leaves out a value that its field refuses or its type has not, names it, and refuses what lacks what is required', function () {
    $rows = jobLetters();
    foreach ($rows as $i => &$row) {
        // Not every letter has a count of pages.
        $row[5] = $i > 0 && $i % 9 === 0 ? '' : $row[5];
    }
    unset($row);
    $rows[1][1] = 'soon';
    $rows[2][5] = 'many';
    accepted($rows);
    lookAtFiles(['L0001.txt', 'L0002.txt', 'L0003.txt'])->assertStatus(202);
    $counts = collect($this->getJson('/api/design/bringing')->json('bringing.counts'))->keyBy('outcome');
    expect($counts['refused']['examples'])->toHaveCount(1)
        ->and($counts['refused']['examples'][0]['source'])->toBe('L0001.txt')
        ->and($counts['refused']['examples'][0]['note'])->toStartWith('Written: ')
        ->and($counts['new']['noted'])->toBe(1)
        ->and($counts['new']['examples'][0]['source'])->toBe('L0002.txt')
        ->and($counts['new']['examples'][0]['note'])->toStartWith('Without Sheets (');
    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk();
    bring(['L0001.txt' => 'One', 'L0002.txt' => 'Two', 'L0003.txt' => 'Three'])->assertOk();
    expect(Document::query()->where('file_name', 'like', 'L0%')->pluck('file_name')->all())->toBe(['L0002.txt', 'L0003.txt'])
        ->and(valueIn('L0002.txt', 'sheets'))->toBeNull()
        ->and(valueIn('L0003.txt', 'sheets'))->toBe('22');
});

it('brings in a file whose row has a value that its type has no field for', function () {
    $rows = mooringRegister();
    $rows[3][7] = '0,9 m';
    expect($rows[3][2])->toBe('Trade');
    accepted($rows, 'moorings.csv');
    lookAtFiles(['ML-0003.txt'])->assertStatus(202);
    $new = collect($this->getJson('/api/design/bringing')->json('bringing.counts'))->firstWhere('outcome', 'new');
    expect($new['examples'][0]['note'])->toBe('Without Draught (its type has no such field).');
});

it('changes by a later register only what its rows say otherwise, and leaves alone what somebody changed since', function () {
    $rows = jobLetters();
    accepted($rows);
    lookAtFiles(['L0001.txt', 'L0002.txt', 'L0003.txt']);
    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk();
    bring(['L0001.txt' => 'One', 'L0002.txt' => 'Two', 'L0003.txt' => 'Three'])->assertOk();
    $this->postJson('/api/design/bringing/finish')->assertOk();

    // Somebody corrects a page count; the next register has another one there, and another kind for the second letter.
    $document = Document::query()->where('file_name', 'L0001.txt')->firstOrFail();
    $sheets = DB::table('fields')->where('code', 'sheets')->value('id');
    DB::table('document_values')->where('document_id', $document->id)->where('field_id', $sheets)->update(['value' => '777']);
    $rows[1][5] = '12';
    $rows[1][4] = 'Report';
    $rows[2][4] = 'Offer';
    accepted($rows, 'letters_2025.csv');
    // No files are given: what came in before is looked at by the rows alone.
    lookAtFiles(['']);
    expect(outcomes())->toMatchArray(['changed' => 2, 'known' => 1, 'missing' => 157]);
    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk();
    $counts = collect($this->getJson('/api/design/bringing')->json('bringing.counts'))->keyBy('outcome');
    expect($counts['altered']['count'])->toBe(2)->and(json_encode($counts['altered']['examples']))->toContain('Without Sheets (changed here since).');
    expect(valueIn('L0001.txt', 'sheets'))->toBe('777')
        ->and(valueIn('L0001.txt', 'kind_of_letter'))->toBe('report')
        ->and(valueIn('L0002.txt', 'kind_of_letter'))->toBe('offer')
        ->and(valueIn('L0003.txt', 'kind_of_letter'))->toBe('offer');
    // The same register once more changes nothing.
    $this->postJson('/api/design/bringing/finish')->assertOk();
    lookAtFiles(['']);
    expect(outcomes())->toMatchArray(['known' => 3])->not->toHaveKey('changed');
    // The design was there: no second type, view, dossier kind or field of the same name was made.
    $design = $this->getJson('/api/design')->json();
    foreach (['types' => 'name', 'views' => 'name', 'fields' => 'label', 'dossier_kinds' => 'name'] as $kind => $name) {
        $names = array_map(mb_strtolower(...), array_column($design[$kind], $name));
        expect(count($names))->toBe(count(array_unique($names)), $kind);
    }
    // Undone, the values are as they were, and the later register is new again.
    $act = collect($this->getJson('/api/acts')->json('acts'))->firstWhere('says', 'Brought in by letters_2025.csv');
    $this->postJson("/api/document-acts/{$act['id']}/undo")->assertOk();
    expect(valueIn('L0002.txt', 'kind_of_letter'))->toBe('report');
    lookAtFiles(['']);
    expect(outcomes())->toMatchArray(['changed' => 2]);
});

it('brings in by folders, with what lies in their names', function () {
    $paths = [];
    foreach (['0417 Swan lock (closed)', '0418 Ash bridge', '0420 Pound (closed)', '0421 Weir (closed)', '0422 Quay'] as $structure) {
        foreach ([2019, 2020, 2021] as $year) {
            $paths[] = "{$structure}/{$year}/plan.txt";
            $paths[] = "{$structure}/{$year}/letter.txt";
        }
    }
    $this->as('librarian')->post(
        '/api/design/proposal',
        ['file' => UploadedFile::fake()->createWithContent('office', implode("\n", $paths)), 'what' => 'folders'],
        ['Accept' => 'application/json'],
    )->assertStatus(202);
    $this->postJson('/api/design/proposal/take', ['name' => 'Structures', 'types' => true, 'columns' => []])->assertOk();
    lookAtFiles($paths)->assertUnprocessable()->assertJsonPath('error.message', 'The field “status” of the proposal is not published yet.');
    $this->publish('Structures')->assertCreated();
    foreach (Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
    lookAtFiles($paths)->assertStatus(202);
    expect(outcomes())->toBe(['new' => 30]);
    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk();
    bring(['0420 Pound (closed)/2020/plan.txt' => 'A plan of the pound'])->assertOk();
    expect($this->search(['words' => 'folder_1 == pound and status == closed and year = 2020'], 'librarian')->json('total'))->toBe(1);
    // From above the folder that was proposed from, they are told the same.
    lookAtFiles(array_map(static fn (string $path): string => "shared/office/{$path}", $paths));
    $this->postJson('/api/design/bringing/open', ['rest' => false])->assertOk();
    bring(['shared/office/0421 Weir (closed)/2021/letter.txt' => 'A letter about the weir'])->assertOk();
    expect($this->search(['words' => 'folder_1 == weir and status == closed and year = 2021'], 'librarian')->json('total'))->toBe(1);
});

it('keeps what comes in to those who may file there, and each person’s own to them', function () {
    accepted(jobLetters());
    lookAtFiles(['L0001.txt'])->assertStatus(202);
    $this->as('librarian')->post(
        '/api/design/bringing',
        ['library' => 'nowhere', 'file' => UploadedFile::fake()->createWithContent('paths', 'a')],
        ['Accept' => 'application/json'],
    )->assertNotFound();
    foreach (['clerk', 'reader', 'manager', 'admin'] as $who) {
        $this->as($who)->getJson('/api/design/bringing')->assertForbidden();
        $this->as($who)->postJson('/api/design/bringing/undo')->assertForbidden();
    }
    // Who may no longer file in the library brings nothing more in.
    DB::table('group_library')->update(['may_change' => false]);
    $this->as('librarian')->postJson('/api/design/bringing/open', ['rest' => false])->assertForbidden();
});

it('looks again after a stop, and says why when it cannot', function () {
    accepted(jobLetters());
    Queue::fake();
    lookAtFiles(['L0001.txt'])->assertJsonPath('bringing.state', 'looking');
    $bringing = Bringing::query()->firstOrFail();
    $this->travel(10)->minutes();
    expect(WorkOnBringing::unfinished(now()))->toBe([$bringing->id]);
    app()->call([new WorkOnBringing($bringing->id), 'handle']);
    app()->call([new WorkOnBringing($bringing->id), 'handle']);
    expect(BringingRow::query()->where('bringing_id', $bringing->id)->count())->toBe(160)->and($bringing->refresh()->state)->toBe('ready');
    // No column names these files.
    lookAtFiles(['other.txt']);
    $next = Bringing::query()->firstOrFail();
    $job = new WorkOnBringing($next->id);
    try {
        app()->call([$job, 'handle']);
    } catch (Throwable $fault) {
        $job->failed($fault);
    }
    expect($this->getJson('/api/design/bringing')->json('bringing'))
        ->toMatchArray(['state' => 'failed'])
        ->says->toContain('No column of the table names the files');
    // Given up, what it had is gone with it, and nothing of what is in.
    $this->deleteJson('/api/design/bringing')->assertNoContent();
    expect(BringingRow::query()->count())->toBe(0)->and(glob(config('brenvic.data').'/bringings/*'))->toBe([])->and(ImportFile::query()->count())->toBe(0);
});
