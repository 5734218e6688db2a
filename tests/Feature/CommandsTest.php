<?php

declare(strict_types=1);

use App\Index\Indexer;
use App\Index\IndexState;
use App\Index\Rebuild;
use App\Models\Document;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

beforeEach(function () {
    $this->folder = sys_get_temp_dir().'/brenvic-import-'.getmypid();
    File::deleteDirectory($this->folder);
    File::makeDirectory("{$this->folder}/deep/er", recursive: true);
    file_put_contents("{$this->folder}/one.txt", 'The otter sleeps');
    file_put_contents("{$this->folder}/deep/er/two.md", '# Otter and heron');
    file_put_contents("{$this->folder}/three.html", '<p>heron</p>');
});

afterEach(fn () => File::deleteDirectory($this->folder));

function answer(string $query, array $options = []): array
{
    Artisan::call('brenvic:search', ['query' => $query, '--json' => true, ...$options]);

    return json_decode(Artisan::output(), true, flags: JSON_THROW_ON_ERROR);
}

it('imports a folder tree, finds what is in it, and brings nothing in twice', function () {
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices'])
        ->expectsOutputToContain('3  imported')
        ->assertSuccessful();
    expect(answer('otter')['total'])->toBe(2)->and(answer('heron -otter')['total'])->toBe(1)->and(answer('path = deep')['total'])->toBe(1);
    file_put_contents("{$this->folder}/four.txt", 'A fourth');
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices'])
        ->expectsOutputToContain('3  known')
        ->assertSuccessful();
    expect(Document::query()->count())->toBe(4);
});

it('takes values from a table and reports rows and files that have no partner', function () {
    file_put_contents(
        "{$this->folder}.csv",
        "file,type,author,document_date\none.txt,oral_history,Nell Bracken,1979\nthree.html,oral_history,Nell Bracken,sometime\nlost.txt,oral_history,Nobody,1980\n",
    );
    Artisan::call('brenvic:import', [
        'path' => $this->folder,
        '--library' => 'voices',
        '--values' => "{$this->folder}.csv",
        '--json' => true,
    ]);
    $outcomes = collect(explode("\n", trim(Artisan::output())))
        ->map(fn (string $line): array => json_decode($line, true))
        ->groupBy('file')
        ->map(fn ($rows) => $rows->pluck('outcome')->all())
        ->all();
    expect($outcomes)
        ->toMatchArray([
            'one.txt' => ['imported'],
            'three.html' => ['refused'],
            'lost.txt' => ['row without file'],
            'deep/er/two.md' => ['file without row', 'imported'],
        ])
        ->and(answer('author = bracken')['hits'][0]['title'])
        ->toBe('Memories of Nell Bracken, 1979');
    file_put_contents("{$this->folder}.csv", "file,auther\none.txt,x\n");
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices', '--values' => "{$this->folder}.csv"])
        ->expectsOutputToContain('Did you mean “author”?')
        ->assertFailed();
    unlink("{$this->folder}.csv");
});

it('says what is missing before it begins', function (array $arguments, string $message) {
    $this->artisan('brenvic:import', $arguments)->expectsOutputToContain($message)->assertFailed();
})->with([
    [['path' => '/no/such', '--library' => 'voices'], 'no file or folder'],
    [['path' => '/tmp', '--library' => 'nowhere'], 'The libraries are'],
    [['path' => '/tmp', '--library' => 'voices', '--type' => 'nothing'], 'The types are'],
]);

it('leaves nothing half there when a batch fails in the middle', function () {
    DB::statement('CREATE TRIGGER stop BEFORE INSERT ON ix0_record WHEN NEW.document > 0 BEGIN SELECT RAISE(ABORT, "stopped"); END');
    expect(fn () => Artisan::call('brenvic:import', ['path' => $this->folder, '--library' => 'voices']))->toThrow(Exception::class);
    expect(Document::query()->count())
        ->toBe(0)
        ->and(DB::table('import_files')->count())
        ->toBe(0)
        ->and(DB::table('pages')->count())
        ->toBe(0)
        ->and(DB::table('ix0_blob')->count())
        ->toBe(0);
    DB::statement('DROP TRIGGER stop');
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices'])->assertSuccessful();
    expect(answer('otter')['total'])->toBe(2);
});

it('rebuilds the index to the same answers', function () {
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices']);
    $before = answer('otter', ['--facets' => 'library,file_type']);
    $this->artisan('brenvic:rebuild')->assertSuccessful();
    app()->forgetScopedInstances();
    $after = answer('otter', ['--facets' => 'library,file_type']);
    unset($before['took_ms'], $after['took_ms']);
    expect($after)
        ->toBe($before)
        ->and($after['facets']['library'][0]['count'])
        ->toBe(2);
});

it('rebuilds beside the index that is searched, goes on after an interruption, and misses no change meanwhile', function () {
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices']);
    $rebuild = new Rebuild(app(Indexer::class), 1);
    $stopped = static function (int $done): void {
        $done === 2 && throw new RuntimeException('stopped');
    };
    expect(fn () => $rebuild->run($stopped))->toThrow(RuntimeException::class);
    expect(IndexState::read()->building)->toBe(1)->and(answer('otter')['total'])->toBe(2);
    $ref = $this->filed('An otter seen at the weir', 'late.txt', 'photograph', ['place' => ['Weir']], 'voices');
    $first = Document::query()->where('state', Document::FILED)->orderBy('id')->firstOrFail();
    $this->as('clerk')
        ->putJson("/api/documents/{$first->ref}", [
            'type' => 'photograph',
            'values' => ['place' => ['Changed meanwhile']],
            'lock_version' => $first->lock_version,
        ])
        ->assertOk();
    $seen = [];
    $rebuild->run(static function (int $done, int $all) use (&$seen): void {
        $seen[] = [$done, $all];
    });
    expect($seen[0][0])
        ->toBe(2)
        ->and(end($seen))
        ->toBe([$seen[0][1], $seen[0][1]]);
    expect(IndexState::read()->live)
        ->toBe(1)
        ->and(answer('otter')['total'])
        ->toBe(3)
        ->and(answer('"changed meanwhile"')['total'])
        ->toBe(1)
        ->and(answer("ref = {$ref}")['total'])
        ->toBe(1);
    $this->artisan('brenvic:check')->assertSuccessful();
});

it('says in which way the index and the documents differ', function () {
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'voices']);
    [$changed, $gone] = Document::query()->where('state', Document::FILED)->orderBy('id')->pluck('id');
    DB::table('pages')
        ->where('document_id', $changed)
        ->update(['text' => 'other words']);
    DB::table('documents')
        ->where('id', $gone)
        ->update(['state' => 'waiting']);
    DB::statement("DELETE FROM ix0_blob WHERE (id >> 24) & 67108863 = (SELECT number FROM ix0_space WHERE name = 'v/library/')");
    Artisan::call('brenvic:check', ['--json' => true]);
    $found = json_decode(Artisan::output(), true);
    expect($found['sound'])
        ->toBeFalse()
        ->and($found['different'])
        ->toBe([$changed])
        ->and($found['surplus'])
        ->toBe([$gone])
        ->and($found['missing'])
        ->toBe([]);
    expect($found['keys'])->toHaveCount(2)->each->toContain($changed);
    $this->artisan('brenvic:rebuild')->assertSuccessful();
    $this->artisan('brenvic:check')->assertSuccessful();
});

it('searches as a person, and reports a query that cannot be read', function () {
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'board']);
    expect(answer('otter')['total'])
        ->toBe(2)
        ->and(answer('otter', ['--as' => 'reader'])['total'])
        ->toBe(0)
        ->and(answer('otter', ['--library' => ['voices']])['total'])
        ->toBe(0);
    expect(answer('waterwy = x')['error'])->toContain('waterway');
    $this->artisan('brenvic:search', ['query' => 'title = (x'])->assertFailed();
    $this->artisan('brenvic:search', ['query' => 'x', '--as' => 'ghost'])->assertFailed();
});

it('exports what is found as a bag, a table or files, as a person may take it away, and says why not', function () {
    $this->artisan('brenvic:import', ['path' => $this->folder, '--library' => 'board']);
    $to = "{$this->folder}-out";
    File::deleteDirectory($to);
    $this->artisan('brenvic:export', ['query' => 'otter', '--to' => "{$to}/bag"])
        ->expectsOutputToContain('2 documents as bag')
        ->assertSuccessful();
    expect(File::files("{$to}/bag/Export/data"))
        ->toHaveCount(2)
        ->and(File::get("{$to}/bag/Export/metadata/query.cql"))
        ->toBe("otter\n")
        ->and(File::get("{$to}/bag/Export/manifest-sha512.txt"))
        ->toContain('data/');
    $this->artisan('brenvic:export', ['query' => 'title = one', '--to' => "{$to}/csv", '--format' => 'csv'])->assertSuccessful();
    expect(
        File::lines("{$to}/csv/Export.csv")
            ->filter()
            ->count(),
    )->toBe(2);
    $this->artisan('brenvic:export', ['query' => 'otter', '--to' => "{$to}/zip", '--format' => 'zip'])->assertSuccessful();
    expect(File::exists("{$to}/zip/Export.zip"))
        ->toBeTrue()
        ->and(DB::table('pull_lists')->whereNull('deleted_at')->count())
        ->toBe(0)
        ->and(DB::table('delivery_items')->count())
        ->toBe(5);
    foreach (
        [
            ['otter', "{$to}/csv", []],
            ['title = (x', "{$to}/a", []],
            ['otter', "{$to}/b", ['--as' => 'reader']],
            ['otter', "{$to}/c", ['--as' => 'ghost']],
            ['otter', "{$to}/d", ['--format' => 'tar']],
            ['otter', '', []],
        ] as [$query, $folder, $more]
    ) {
        $this->artisan('brenvic:export', ['query' => $query, '--to' => $folder, ...$more])->assertFailed();
    }
    expect(glob("{$to}/[abcd]") ?: [])->toBe([]);
    File::deleteDirectory($to);
});

it('writes JSON that programs can read, whatever stands in the documents', function () {
    $signs = [
        '\\',
        '<',
        '>',
        '"',
        "'",
        '/',
        '<info>',
        '</info>',
        '<fg=red>',
        "\n",
        "\t",
        'é',
        '漢',
        '😀',
        '&',
        '%s',
        '{}',
        '\\<',
        "\u{2028}",
        'x ',
    ];
    seeded(19);
    for ($i = 0; $i < 12; $i++) {
        $text = 'otterword '.implode('', array_map(static fn (): string => $signs[mt_rand(0, count($signs) - 1)], range(1, 40)));
        $this->filed($text, "f{$i}.txt", 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    }
    $answer = answer('otterword', ['--facets' => 'waterway']);
    expect($answer['total'])
        ->toBe(12)
        ->and($answer['hits'])
        ->toHaveCount(12)
        ->and(implode('', array_column($answer['hits'], 'snippet')))
        ->toContain('<info>')
        ->toContain('\\<');
    expect(answer('title = "\\<info>')['error'])->toBeString();
    expect(Artisan::call('brenvic:check', ['--json' => true]))
        ->toBe(0)
        ->and(json_decode(Artisan::output(), true)['sound'])
        ->toBeTrue();
    // For people too: nothing that looks like a tag is taken for one.
    Artisan::call('brenvic:search', ['query' => 'otterword', '--as' => 'librarian']);
    expect(Artisan::output())->toContain('<info>');
});

it('publishes a scheme that it imports, and exports what is drafted', function () {
    $file = "{$this->folder}/water.ttl";
    File::put(
        $file,
        '@prefix skos: <http://www.w3.org/2004/02/skos/core#> . <http://x.example/w#> a skos:ConceptScheme ; skos:prefLabel "Water"@en . <http://x.example/w#weir> a skos:Concept ; skos:inScheme <http://x.example/w#> ; skos:prefLabel "Weir"@en .',
    );
    $this->artisan('brenvic:scheme:import', ['file' => $file, '--code' => 'water'])->assertSuccessful();
    expect(Artisan::call('brenvic:scheme:export', ['code' => 'water']))
        ->toBe(1)
        ->and(Artisan::call('brenvic:scheme:export', ['code' => 'water', '--draft' => true]))
        ->toBe(0)
        ->and(Artisan::output())
        ->toContain('"Weir"@en');
    Artisan::call('brenvic:design:export', ['--draft' => true]);
    expect(json_decode(Artisan::output(), true, flags: JSON_THROW_ON_ERROR))->toBeArray()->and(Artisan::output())->toBe('');
    $this->artisan('brenvic:scheme:import', ['file' => $file, '--code' => 'water', '--publish' => 'Water, from the survey'])
        ->expectsOutputToContain('Published as version')
        ->assertSuccessful();
    app()->forgetScopedInstances();
    expect(Artisan::call('brenvic:scheme:export', ['code' => 'water']))
        ->toBe(0)
        ->and(DB::table('design_versions')->orderByDesc('id')->value('note'))
        ->toBe('Water, from the survey');
});
