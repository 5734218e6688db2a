<?php

declare(strict_types=1);

use App\Design\ProposeDesign;
use App\Models\Proposal;
use App\Models\User;
use App\Tables\TableFile;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

it('proposes a design from a table, and puts what is accepted into the draft to be published', function () {
    propose(csvOf(mooringRegister()))->assertStatus(202)->assertJsonPath('proposal.name', 'moorings 2024');
    $proposal = $this->getJson('/api/design/proposal')->assertOk()->json('proposal');
    expect($proposal)
        ->toMatchArray(['state' => 'ready', 'rows' => 240, 'faults' => [], 'type_column' => 2])
        ->and(array_column($proposal['columns'], 'kind', 'name'))
        ->toBe([
            'Licence' => 'identifier',
            'Issued' => 'date',
            'Sort of licence' => 'choice',
            'Reach' => 'choice',
            'Stage' => 'choice',
            'Fee' => 'amount',
            'Holder mail' => 'text',
            'Draught' => 'number',
            'Wharf crane' => 'choice',
        ])
        ->and($proposal['columns'][4]['depends_on'])
        ->toBe(3)
        ->and($proposal['columns'][6]['sensitive'])
        ->toContain('mail addresses')
        ->and(array_column($proposal['types'], 'rows', 'name'))
        ->toBe(['Leisure' => 160, 'Trade' => 80]);

    $decided = array_map(
        static fn (array $c): array => [
            'place' => $c['place'],
            'take' => $c['name'] !== 'Wharf crane',
            'label' => $c['name'] === 'Issued' ? 'Issued on' : $c['name'],
            'kind' => $c['kind'],
            'existing' => null,
        ],
        $proposal['columns'],
    );
    $take = fn (array $columns) => $this->postJson('/api/design/proposal/take', ['name' => 'Moorings', 'types' => true, 'columns' => $columns]);
    $draft = $take($decided)->assertOk()->json('draft.design');
    $part = static fn (string $kind, string $code): array => collect($draft[$kind])->firstWhere('code', $code) ?? [];
    expect($part('fields', 'issued_on'))
        ->toMatchArray(['kind' => 'date', 'label' => 'Issued on'])
        ->and($part('fields', 'wharf_crane'))
        ->toBe([])
        ->and($part('fields', 'holder_mail')['sensitive'])
        ->toBeTrue()
        ->and($part('fields', 'draught_2') ?: $part('fields', 'draught'))
        ->toMatchArray(['kind' => 'number', 'unit' => 'm'])
        ->and(collect($part('vocabularies', $part('fields', 'stage')['vocabulary'])['terms'])->firstWhere('label', 'Stage E')['under'])
        ->toBe(['lower_reach'])
        ->and(array_column($part('types', 'leisure')['fields'], 'code'))
        ->toContain('licence', 'issued_on', 'stage')
        ->and($part('views', 'moorings')['criterion'])
        ->toBe('type == leisure or type == trade');
    $this->publish('Moorings')->assertCreated();
    // Given again, what was turned down stays so, and what was made is the field that is there.
    propose(csvOf(mooringRegister()), 'moorings_2025.csv');
    $again = collect($this->getJson('/api/design/proposal')->json('proposal.columns'))->keyBy('name');
    expect($again['Wharf crane']['decided']['take'])
        ->toBeFalse()
        ->and($again['Issued']['decided'])
        ->toMatchArray(['label' => 'Issued on', 'existing' => 'issued_on']);
    $this->deleteJson('/api/design/proposal')->assertNoContent();
    expect($this->getJson('/api/design/proposal')->json('proposal'))->toBeNull();
});

it('puts all of a proposal into the draft or nothing, and takes no reading that there is not', function () {
    propose(csvOf([['Name', 'State'], ...array_map(static fn (int $i): array => ["Lock {$i}", ['shut', 'open'][$i % 2]], range(1, 30))]));
    $column = ['place' => 1, 'take' => true, 'label' => 'State', 'kind' => 'date', 'existing' => null];
    $take = fn (array $columns) => $this->postJson('/api/design/proposal/take', ['name' => 'Locks', 'types' => true, 'columns' => $columns]);
    $take([$column])->assertUnprocessable()->assertJsonPath('error.message', '“State” cannot be read as that.');
    // The name of an existing field that is none.
    $take([[...$column, 'kind' => 'choice', 'existing' => 'nowhere']])->assertUnprocessable();
    expect($this->getJson('/api/design/draft')->json('changes'))->toBe([]);
    $this->as('librarian')->postJson('/api/design/proposal/take', ['name' => '', 'types' => true, 'columns' => []])->assertUnprocessable();
});

it('keeps a proposal to the one who gave the table', function () {
    propose(csvOf([['Name'], ['a'], ['b']]));
    User::query()->create([
        'name' => 'Second Librarian',
        'sign_in' => 'second',
        'password' => 'x',
        'role' => 'librarian',
    ]);
    $this->as('second');
    expect($this->getJson('/api/design/proposal')->assertOk()->json('proposal'))->toBeNull();
    $this->postJson('/api/design/proposal/take', ['name' => 'x', 'types' => true, 'columns' => []])->assertNotFound();
    $this->deleteJson('/api/design/proposal')->assertNoContent();
    expect(Proposal::query()->count())->toBe(1);
});

it('has a library take documents of the types, or makes one', function () {
    propose(csvOf(mooringRegister()));
    $take = fn (array $more) => $this->postJson('/api/design/proposal/take', ['name' => 'Moorings', 'types' => true, 'columns' => [], ...$more]);
    $take(['new_library' => true])->assertOk();
    $design = $this->getJson('/api/design/draft')->json('design');
    $library = collect($design['libraries'])->firstWhere('name', 'Moorings');
    expect($library)->toMatchArray(['types' => ['leisure', 'trade'], 'view' => 'moorings'])
        ->and(array_column($library['groups'], 'change'))->not->toContain(false)
        ->and(collect($design['repositories'])->firstWhere('code', $library['repository'])['address'])->toBe('');
    // One that is there takes them too, and keeps what it opens with.
    $before = collect($design['libraries'])->firstWhere('code', 'harbour');
    $take(['library' => 'harbour'])->assertOk();
    $after = collect($this->getJson('/api/design/draft')->json('design.libraries'))->firstWhere('code', 'harbour');
    expect($after['types'])->toBe([...$before['types'], 'leisure', 'trade'])->and($after['view'])->toBe($before['view'] ?? 'moorings');
    // A third time there is nothing to change.
    expect($take(['library' => 'harbour'])->assertOk()->json('parts'))->toBe(0);
    $this->publish('Moorings')->assertCreated();
    DB::table('group_user')->where('user_id', User::query()->where('sign_in', 'librarian')->value('id'))->delete();
    App\People\Groups::gather();
    $this->app->make('auth')->forgetGuards();
    $this->as('librarian');
    $take(['new_library' => true])->assertUnprocessable()->assertSee('You are in no group');
});

it('says what is wrong with a file that is no table', function (string $contents, string $says) {
    propose($contents);
    expect($this->getJson('/api/design/proposal')->json('proposal'))
        ->state->toBe('failed')
        ->says->toContain($says);
})->with([
    'an empty file' => ['  ', 'The table is empty'],
    'an old spreadsheet' => ["\xD0\xCF\x11\xE0 and so on", 'no XLSX or ODS spreadsheet'],
    'a damaged archive' => ["PK\x03\x04 and so on", 'The spreadsheet is damaged'],
]);

it('reads tables in other encodings and with other signs', function (string $bytes, array $rows) {
    $path = (string) tempnam(sys_get_temp_dir(), 'table');
    file_put_contents($path, $bytes);
    expect(iterator_to_array((new TableFile($path))->rows(), false))->toBe($rows);
    unlink($path);
})->with([
    'UTF-8 with a mark' => ["\u{FEFF}a,b\n1,\"x, y\"\n", [['a', 'b'], ['1', 'x, y']]],
    'semicolons with commas in the numbers' => ["a;b\n1,5;2,5\n3,5;4,5\n", [['a', 'b'], ['1,5', '2,5'], ['3,5', '4,5']]],
    'tabs' => ["a\tb\n1\t2\n", [['a', 'b'], ['1', '2']]],
    'UTF-16' => ["\xFF\xFE".mb_convert_encoding("Größe;Ort\n2;Köln\n", 'UTF-16LE', 'UTF-8'), [['Größe', 'Ort'], ['2', 'Köln']]],
    'Latin-1' => [mb_convert_encoding("Größe;Ort\n2;Köln\n", 'ISO-8859-1', 'UTF-8'), [['Größe', 'Ort'], ['2', 'Köln']]],
    'UTF-16 with a pair at the seam, and half a letter at the end' => [
        "\xFF\xFE".mb_convert_encoding('a;b'."\n".str_repeat('x', 131_065).'😀;1'."\n", 'UTF-16LE', 'UTF-8')."\x00",
        [['a', 'b'], [str_repeat('x', 131_065).'😀', '1']],
    ],
    'letters that are none in their encoding' => ["a;b\nG\xC3\x28;\xFF\n", [['a', 'b'], ['GÃ(', 'ÿ']]],
    'a cell over two lines' => ["a,b\n\"one\ntwo\",2\n", [['a', 'b'], ["one\ntwo", '2']]],
]);

it('gives a proposal up when another is begun, and reads it again after a stop', function () {
    Queue::fake();
    propose(csvOf([['Name'], ['a']]));
    $first = (int) Proposal::query()->value('id');
    propose(csvOf([['Place'], ['b'], ['c']]));
    expect(Proposal::query()->pluck('id')->all())->toBe([$first + 1]);
    app()->call([new ProposeDesign($first), 'handle']);
    app()->call([new ProposeDesign($first + 1), 'handle']);
    app()->call([new ProposeDesign($first + 1), 'handle']);
    expect($this->getJson('/api/design/proposal')->json('proposal.columns.0.name'))->toBe('Place');
});

it('proposes from folders what each level means, and a view by which people find their old way', function () {
    $paths = [];
    foreach (['2021', '2022', '2023'] as $year) {
        foreach (['Lock Fen', 'Lock Mere', 'Bridge Ash', 'Bridge Oak'] as $structure) {
            foreach (['letters', 'plans', 'surveys'] as $sort) {
                foreach (range(1, 3) as $i) {
                    $paths[] = "office/{$year}/{$structure}/{$sort}/{$year}-{$i}.pdf";
                }
            }
        }
    }
    $paths = [...$paths, 'office/readme.txt', 'office/2021/Lock Fen/plans/old/1998.pdf', 'office/2022/empty/'];
    test()->as('librarian')
        ->post(
            '/api/design/proposal',
            ['file' => UploadedFile::fake()->createWithContent('office', implode("\n", $paths)), 'what' => 'folders'],
            ['Accept' => 'application/json'],
        )
        ->assertStatus(202);
    $proposal = $this->getJson('/api/design/proposal')->assertOk()->json('proposal');
    expect(array_column($proposal['columns'], 'kind', 'name'))
        ->toMatchArray(['Year' => 'date', 'Folder 2' => 'choice', 'Folder 3' => 'choice'])
        ->and($proposal['levels'])
        ->toBe([1, 2, 3])
        ->and(array_column($proposal['faults'], 'count', 'what'))
        ->toMatchArray(['files nearer to the top than most' => 1, 'files deeper than most' => 1, 'empty folders' => 1]);
    $columns = array_map(
        static fn (array $c): array => [
            'place' => $c['place'],
            'take' => $c['place'] > 0,
            'label' => $c['name'],
            'kind' => $c['kind'],
            'existing' => null,
        ],
        $proposal['columns'],
    );
    $design = $this->postJson('/api/design/proposal/take', ['name' => 'Old way', 'types' => true, 'columns' => $columns])
        ->assertOk()
        ->json('draft.design');
    $view = collect($design['views'])->firstWhere('code', 'old_way');
    expect(array_column($view['levels'], 'field'))->toBe(['year', 'folder_2', 'folder_3'])->and($view['opens'])->toBe('outline');
    $this->publish('Folders')->assertCreated();
});

it('reads a table or a folder tree of this machine by a command', function () {
    $folder = sys_get_temp_dir().'/propose-'.bin2hex(random_bytes(4));
    mkdir("{$folder}/1999/letters", recursive: true);
    mkdir("{$folder}/2001/plans", recursive: true);
    array_map(static fn (string $file): int|false => file_put_contents("{$folder}/{$file}", 'x'), ['1999/letters/a.txt', '2001/plans/b.txt']);
    expect(Artisan::call('brenvic:design:propose', ['path' => $folder, '--as' => 'librarian']))->toBe(0);
    expect(array_column($this->as('librarian')->getJson('/api/design/proposal')->json('proposal.columns'), 'name'))->toBe(['File', 'Year', 'Folder 2']);
    file_put_contents("{$folder}/t.csv", csvOf(mooringRegister()));
    expect(Artisan::call('brenvic:design:propose', ['path' => "{$folder}/t.csv", '--as' => 'librarian']))->toBe(0);
    expect($this->getJson('/api/design/proposal')->json('proposal.rows'))->toBe(240);
    expect(Artisan::call('brenvic:design:propose', ['path' => "{$folder}/t.csv", '--as' => 'reader']))->toBe(1);
    expect(Artisan::call('brenvic:design:propose', ['path' => "{$folder}/none", '--as' => 'librarian']))->toBe(1);
    exec('rm -r '.escapeshellarg($folder));
});

it('brings files in by the register that was accepted, in the forms it is written in', function () {
    $rows = mooringRegister();
    // Months first, and a sign for no fee.
    foreach ($rows as $i => &$row) {
        if ($i > 0) {
            [$day, $month, $year] = explode('/', $row[1]);
            $row[1] = "{$month}/{$day}/{$year}";
            $row[5] = $i % 10 === 0 ? 'n/a' : str_replace('£', '£ ', $row[5]);
        }
    }
    unset($row);
    propose(csvOf($rows));
    $proposal = $this->getJson('/api/design/proposal')->json('proposal');
    expect($proposal['columns'][5]['kind'])->toBe('amount');
    $this->postJson('/api/design/proposal/take', ['name' => 'Moorings', 'types' => true, 'columns' => []])->assertOk();
    $folder = sys_get_temp_dir().'/register-'.bin2hex(random_bytes(4));
    mkdir("{$folder}/scans", recursive: true);
    foreach ([7, 9, 10] as $i) {
        file_put_contents(sprintf("{$folder}/scans/ML-%04d.txt", $i), "Licence {$i}");
    }
    file_put_contents("{$folder}/register.csv", csvOf($rows));
    $import = fn (array $how): int => Artisan::call('brenvic:import', ['path' => "{$folder}/scans", '--library' => 'harbour', ...$how]);
    $byRegister = ['--register' => "{$folder}/register.csv", '--as' => 'librarian'];
    expect($import($byRegister))->toBe(1)->and(Artisan::output())->toContain('is not published yet');
    $this->publish('Moorings')->assertCreated();
    expect($import(['--register' => "{$folder}/register.csv", '--as' => 'reader']))->toBe(1);
    expect($import($byRegister))->toBe(0)->and(Artisan::output())->toContain('237  row without file');
    $value = fn (string $licence, string $field): ?string => DB::table('document_values as v')
        ->join('fields as f', 'f.id', '=', 'v.field_id')
        ->join('documents as d', 'd.id', '=', 'v.document_id')
        ->where('d.file_name', "{$licence}.txt")
        ->where('f.code', $field)
        ->value('v.value');
    $fee = collect($this->as('librarian')->getJson('/api/design')->json('fields'))->firstWhere('label', 'Fee')['code'];
    expect($value('ML-0007', 'issued'))
        ->toBe('2017-08-08')
        ->and($value('ML-0007', $fee))
        ->toBe('149.00')
        ->and($value('ML-0010', $fee))
        ->toBeNull()
        ->and($value('ML-0007', 'stage'))
        ->toBe('stage_h')
        ->and(DB::table('documents as d')->join('document_types as t', 't.id', '=', 'd.document_type_id')->where('file_name', 'ML-0009.txt')->value('t.code'))
        ->toBe('trade');
    // Again brings nothing twice.
    expect($import($byRegister))->toBe(0)->and(DB::table('documents')->where('file_name', 'like', 'ML-%')->count())->toBe(3);
    exec('rm -r '.escapeshellarg($folder));
});

it('brings files in by the folders that were accepted', function () {
    $folder = sys_get_temp_dir().'/tree-'.bin2hex(random_bytes(4));
    foreach (['2021', '2022'] as $year) {
        foreach (['letters', 'plans', 'surveys'] as $sort) {
            mkdir("{$folder}/{$year}/{$sort}", recursive: true);
            foreach (range(1, 3) as $i) {
                file_put_contents("{$folder}/{$year}/{$sort}/{$year}-{$sort}-{$i}.txt", "{$year} {$sort} {$i}");
            }
        }
    }
    expect(Artisan::call('brenvic:design:propose', ['path' => $folder, '--as' => 'librarian']))->toBe(0);
    $this->as('librarian')->postJson('/api/design/proposal/take', ['name' => 'Old way', 'types' => true, 'columns' => []])->assertOk();
    $this->publish('Folders')->assertCreated();
    expect(Artisan::call('brenvic:import', ['path' => $folder, '--library' => 'harbour', '--folders' => true, '--as' => 'librarian']))->toBe(0);
    expect($this->search(['words' => 'year = 2021 and folder_2 == plans'], 'librarian')->json('total'))->toBe(3);
    exec('rm -r '.escapeshellarg($folder));
});
