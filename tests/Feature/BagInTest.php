<?php

declare(strict_types=1);

use App\Import\BagFolder;
use App\Models\Document;
use App\Support\Refused;
use Brenvic\Core\Exchange\BagIt\BagCheck;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/**
 * A bag that the machine's own tools made.
 *
 * @param  array<string, string>  $files  contents by path within data/
 */
function baggedBySums(string $folder, array $files, string $version = '1.0', string $algorithm = 'sha256'): string
{
    File::deleteDirectory($folder);
    foreach ($files as $name => $contents) {
        File::ensureDirectoryExists(dirname("{$folder}/data/{$name}"));
        file_put_contents("{$folder}/data/{$name}", $contents);
    }
    file_put_contents("{$folder}/bagit.txt", "BagIt-Version: {$version}\nTag-File-Character-Encoding: UTF-8\n");
    $bytes = array_sum(array_map(strlen(...), $files));
    file_put_contents("{$folder}/bag-info.txt", 'Source-Organization: Port of Lorneholm'."\nPayload-Oxum: {$bytes}.".count($files)."\n");
    exec('cd '.escapeshellarg($folder)." && find data -type f -print0 | xargs -0 {$algorithm}sum > manifest-{$algorithm}.txt && {$algorithm}sum bagit.txt bag-info.txt manifest-{$algorithm}.txt > tagmanifest-{$algorithm}.txt", $out, $code);
    expect($code)->toBe(0);

    return $folder;
}

/** @return list<string> */
function bagFaults(string $path): array
{
    $bag = BagFolder::open($path);
    try {
        return BagCheck::of($bag);
    } finally {
        $bag->close();
    }
}

function takenIn(string $path, array $more = []): int
{
    return Artisan::call('brenvic:import', ['path' => $path, '--bag' => true, '--library' => 'waterways', ...$more]);
}

beforeEach(function () {
    $this->folder = sys_get_temp_dir().'/brenvic-bags-'.getmypid();
    File::deleteDirectory($this->folder);
    File::ensureDirectoryExists($this->folder);
});

afterEach(fn () => File::deleteDirectory($this->folder));

it('takes in what another office delivers, as it was there', function () {
    stoppageOf('2001', ['subject' => ['NAV.02.3', 'NAV.01']], 'The sluice is shut.');
    $this->filed('The sluice leaks, says the report.', 'report.txt', 'weed_silt_report', ['document_date' => ['2014-03-02'], 'waterway' => ['tarn-upper']]);
    $this->artisan('brenvic:export', ['query' => 'sluice', '--to' => "{$this->folder}/out", '--format' => 'bag'])->assertSuccessful();
    $bag = "{$this->folder}/out/Export";
    exec('cd '.escapeshellarg($bag).' && sha512sum -c --quiet manifest-sha512.txt', $said, $code);
    expect($code)->toBe(0, implode(' ', $said));
    $shape = static fn (Document $of): array => [
        $of->title, $of->type?->code, $of->sha256, DB::table('document_values')->join('fields', 'fields.id', '=', 'field_id')->where('document_id', $of->id)->orderBy('code')->orderBy('position')->get(['code', 'value'])->map(static fn ($row): string => "{$row->code}={$row->value}")->all(),
    ];
    $before = Document::query()->with('type')->orderBy('id')->get()->map($shape)->sort()->values()->all();
    expect(takenIn($bag))->toBe(0);
    $after = Document::query()->with('type')->where('id', '>', 2)->orderBy('id')->get()->map($shape)->sort()->values()->all();
    expect($after)->toBe($before)->toHaveCount(2);
    // Taken in again, nothing comes twice.
    expect(takenIn($bag))->toBe(0)->and(Document::query()->count())->toBe(4);
});

it('takes a bag that sha256sum made, folders and strange names and all, also packed by zip and of version 0.97', function (string $version, string $algorithm) {
    $bag = baggedBySums("{$this->folder}/letters", ['a b/first letter.txt' => 'One', 'a b/100 %.txt' => 'Two', 'ü/дом.txt' => 'Three'], $version, $algorithm);
    expect(bagFaults($bag))->toBe([])->and(takenIn($bag))->toBe(0);
    expect(Document::query()->orderBy('path')->pluck('path')->all())->toBe(['a b/100 %.txt', 'a b/first letter.txt', 'ü/дом.txt']);
    $zip = new ZipArchive;
    $zip->open("{$this->folder}/letters.zip", ZipArchive::CREATE);
    foreach (BagFolder::open($bag)->paths() as $path) {
        $zip->addFile("{$bag}/{$path}", "letters/{$path}");
    }
    $zip->close();
    expect(bagFaults("{$this->folder}/letters.zip"))->toBe([])->and(glob(sys_get_temp_dir().'/brenvic-bag-*'))->toBe([]);
})->with([['1.0', 'sha256'], ['0.97', 'md5'], ['1.0', 'sha512']]);

it('takes nothing of a bag that is not whole, and says what is wrong', function (Closure $spoil, string $says) {
    $bag = baggedBySums("{$this->folder}/bag", ['one.txt' => 'One', 'two.txt' => 'Two']);
    $spoil($bag);
    expect(implode(' ', bagFaults($bag)))->toContain($says)->and(takenIn($bag))->toBe(1)->and(Document::query()->count())->toBe(0)
        ->and(Artisan::output())->toContain('nothing of it is brought in');
})->with([
    [fn (string $bag) => file_put_contents("{$bag}/data/one.txt", 'Onf'), 'data/one.txt is not what was put into the bag'],
    [fn (string $bag) => unlink("{$bag}/data/two.txt"), 'data/two.txt is missing'],
    [fn (string $bag) => file_put_contents("{$bag}/data/three.txt", 'x'), 'data/three.txt is not in manifest-sha256.txt'],
    [fn (string $bag) => file_put_contents("{$bag}/bag-info.txt", "Payload-Oxum: 7.2\n"), 'bag-info.txt is not what was put'],
    [fn (string $bag) => [file_put_contents("{$bag}/bag-info.txt", "Payload-Oxum: 7.2\n"), unlink("{$bag}/tagmanifest-sha256.txt")], 'says 2 files of 7 bytes, and there are 2 of 6'],
    [fn (string $bag) => file_put_contents("{$bag}/fetch.txt", "http://elsewhere.example/x - data/x\n"), 'to be fetched elsewhere'],
    [fn (string $bag) => unlink("{$bag}/manifest-sha256.txt"), 'no manifest'],
    [fn (string $bag) => unlink("{$bag}/bagit.txt"), 'It is no bag'],
    [fn (string $bag) => file_put_contents("{$bag}/bagit.txt", "BagIt-Version: 9.0\nTag-File-Character-Encoding: UTF-8\n"), 'does not declare'],
    [fn (string $bag) => file_put_contents("{$bag}/manifest-sha256.txt", str_repeat('0', 64)."  ../../etc/passwd\n", FILE_APPEND), 'does not lie in the bag'],
    [fn (string $bag) => file_put_contents("{$bag}/manifest-sha256.txt", "what is this\n", FILE_APPEND), 'cannot be read'],
    [fn (string $bag) => [unlink("{$bag}/data/one.txt"), symlink('/etc/hostname', "{$bag}/data/one.txt")], 'data/one.txt is missing'],
]);

it('sees every byte that is other than it was', function () {
    mt_srand(37);
    $bag = baggedBySums("{$this->folder}/bag", ['one.txt' => str_repeat('One. ', 20), 'b/two.txt' => 'Two']);
    foreach (range(1, 60) as $ignored) {
        $paths = BagFolder::open($bag)->paths();
        $path = "{$bag}/{$paths[mt_rand(0, count($paths) - 1)]}";
        $was = (string) file_get_contents($path);
        $at = mt_rand(0, strlen($was) - 1);
        $is = $was;
        do {
            $is[$at] = chr(mt_rand(1, 255));
        } while ($is === $was);
        file_put_contents($path, $is);
        // The manifest of manifests has none of its own: a sum in capitals says the same.
        if (strtolower($is) !== strtolower($was)) {
            expect(bagFaults($bag))->not->toBe([], "{$path} at {$at}");
        }
        file_put_contents($path, $was);
    }
    expect(bagFaults($bag))->toBe([]);
});

it('leaves nothing outside of a ZIP that leads out of it', function () {
    $zip = new ZipArchive;
    $zip->open("{$this->folder}/evil.zip", ZipArchive::CREATE);
    $zip->addFromString('bagit.txt', "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n");
    $zip->addFromString('../outside.txt', 'x');
    $zip->close();
    expect(fn () => BagFolder::open("{$this->folder}/evil.zip"))->toThrow(Refused::class, 'leads out of it');
    expect(is_file(sys_get_temp_dir().'/outside.txt'))->toBeFalse()->and(glob(sys_get_temp_dir().'/brenvic-bag-*'))->toBe([]);
    file_put_contents("{$this->folder}/no.zip", 'PK nothing');
    expect(takenIn("{$this->folder}/no.zip"))->toBe(1);
});

it('names what it does not know, and brings the rest in', function () {
    $bag = baggedBySums("{$this->folder}/bag", ['one.txt' => 'One', 'two.txt' => 'Two']);
    File::ensureDirectoryExists("{$bag}/metadata");
    file_put_contents("{$bag}/metadata/index-values.csv", implode("\r\n", [
        'reference,title,type,file,waterway,document_date,colour',
        'X-1,"The first, of all",Stoppage notice,data/one.txt,tarn-sea,2014-02-03,red',
        'X-2,Second,A type from elsewhere,data/two.txt,tarn-sea,soon,blue',
        '',
    ]));
    expect(takenIn($bag, ['--json' => true]))->toBe(0);
    $lines = array_map(static fn (string $line): mixed => json_decode($line, true), array_filter(explode("\n", Artisan::output())));
    expect(Document::query()->orderBy('id')->pluck('title')->all())->toContain('Second')
        ->and(Document::query()->whereNotNull('document_type_id')->count())->toBe(1)
        ->and(json_encode($lines))->toContain('two.txt');
});
