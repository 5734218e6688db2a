<?php

declare(strict_types=1);

use App\Files\FileStore;
use App\Models\Document;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/** @return array<string, Symfony\Component\Console\Command\Command> those for an office, by name */
function officeCommands(): array
{
    return array_filter(Artisan::all(), static fn ($of, string $name): bool => str_starts_with($name, 'brenvic:') && ! str_starts_with($name, 'brenvic:demo'), ARRAY_FILTER_USE_BOTH);
}

/** @return array<string, string> what docs/commands.md says of the JSON of each, by name */
function describedCommands(): array
{
    preg_match_all('/^\| `(brenvic:[a-z:]+)[^|]*\| [^|]* \| ([^|]*) \|$/m', (string) file_get_contents(base_path('docs/commands.md')), $found);

    return array_combine($found[1], $found[2]);
}

/** @return array{int, list<array<string, mixed>>} exit code, and the objects that were printed */
function asProgram(string $command, array $arguments = []): array
{
    $code = Artisan::call($command, [...$arguments, '--json' => true]);
    $lines = array_values(array_filter(explode("\n", Artisan::output()), static fn (string $line): bool => $line !== ''));

    return [$code, array_map(static fn (string $line): array => json_decode($line, true, 512, JSON_THROW_ON_ERROR), $lines)];
}

it('describes every command, and each of its arguments and options', function () {
    $forever = ['brenvic:care', 'brenvic:watch'];
    $described = describedCommands();
    $all = officeCommands();
    expect(array_keys($all))->toEqualCanonicalizing([...array_keys($described), ...$forever]);
    foreach ($all as $name => $command) {
        expect($command->getDescription())->not->toBe('', $name);
        foreach ([...$command->getDefinition()->getArguments(), ...$command->getDefinition()->getOptions()] as $of) {
            expect($of->getDescription())->not->toBe('', "{$name} {$of->getName()}");
        }
        $hasOwnForm = in_array($name, [...$forever, 'brenvic:design:export', 'brenvic:scheme:export'], true);
        expect($command->getDefinition()->hasOption('json'))->toBe(! $hasOwnForm, $name);
        // What the table names as an option is one.
        preg_match('/^\| `'.preg_quote($name, '/').'.*$/m', (string) file_get_contents(base_path('docs/commands.md')), $line);
        preg_match_all('/--([a-z-]+)/', $line[0] ?? '', $named);
        foreach ($named[1] as $option) {
            expect($command->getDefinition()->hasOption($option))->toBeTrue("{$name} --{$option}");
        }
    }
});

it('prints for programs what its description says, and nothing else', function () {
    $folder = sys_get_temp_dir().'/brenvic-line-'.getmypid();
    File::deleteDirectory($folder);
    File::ensureDirectoryExists("{$folder}/in");
    file_put_contents("{$folder}/in/a.txt", 'The otter is seen.');
    $keys = static function (string $name, array $objects): void {
        preg_match_all('/`([a-z_]+)`/', describedCommands()[$name], $said);
        expect($objects)->not->toBe([], $name);
        foreach (array_keys($objects[0]) as $key) {
            expect(in_array($key, $said[1], true))->toBeTrue("{$name}: {$key}");
        }
    };
    $runs = [
        ['brenvic:import', ['path' => "{$folder}/in", '--library' => 'voices']],
        ['brenvic:export', ['query' => 'otter', '--to' => "{$folder}/out"]],
        ['brenvic:check', []],
        ['brenvic:verify', []],
        ['brenvic:rebuild', []],
        ['brenvic:history:verify', []],
        ['brenvic:upgrade', []],
    ];
    foreach ($runs as [$name, $arguments]) {
        [$code, $objects] = asProgram($name, $arguments);
        expect($code)->toBe(0, $name.json_encode($objects));
        $keys($name, $objects);
    }
    Artisan::call('brenvic:design:export');
    file_put_contents("{$folder}/design.json", Artisan::output());
    [$code, $objects] = asProgram('brenvic:design:import', ['file' => "{$folder}/design.json"]);
    expect($code)->toBe(0)->and($objects[0]['changes'])->toBe([])->and($objects[0]['version'])->toBeNull();
    Artisan::call('brenvic:scheme:export', ['code' => 'subject']);
    file_put_contents("{$folder}/subject.ttl", str_replace('Dredging', 'Dredging of beds', Artisan::output()));
    [$code, $objects] = asProgram('brenvic:scheme:import', ['file' => "{$folder}/subject.ttl", '--code' => 'subject', '--dry-run' => true]);
    expect($code)->toBe(0)->and($objects[0]['changed'])->toBe(['NAV.02.3'])->and($objects[0]['version'])->toBeNull();
    $keys('brenvic:scheme:import', $objects);
    File::deleteDirectory($folder);
});

it('tells a script by its exit code whether it was not done, or something is amiss', function () {
    $ref = stoppageOf('2001');
    expect(asProgram('brenvic:verify')[0])->toBe(0);
    unlink(app(FileStore::class)->path(Document::query()->where('ref', $ref)->firstOrFail()->sha256));
    [$code, $objects] = asProgram('brenvic:verify');
    expect($code)->toBe(2)->and($objects[0]['faults'][0]['documents'])->toBe([$ref]);
    DB::table('documents')->where('ref', $ref)->update(['title' => 'Behind its back']);
    expect(asProgram('brenvic:check')[0])->toBe(2);
    DB::table('history')->where('id', 1)->update(['act' => 'viewed', 'hash' => 'x']);
    [$code, $objects] = asProgram('brenvic:history:verify');
    expect($code)->toBe(2)->and($objects[0]['broken_at'])->toBe(1);
    foreach (
        [
            ['brenvic:import', ['path' => '/nowhere', '--library' => 'voices']],
            ['brenvic:import', ['path' => '/tmp', '--library' => 'nothing']],
            ['brenvic:export', ['query' => 'nothing at all', '--to' => sys_get_temp_dir().'/brenvic-none']],
            ['brenvic:design:import', ['file' => '/nowhere']],
            ['brenvic:scheme:import', ['file' => '/nowhere', '--code' => 'x']],
            ['brenvic:design:propose', ['path' => '/nowhere', '--as' => 'reader']],
            ['brenvic:restore', []],
            ['brenvic:search', ['query' => 'title = (']],
        ] as [$name, $arguments]
    ) {
        [$code, $objects] = asProgram($name, $arguments);
        expect($code)->toBe(1, $name)->and($objects)->toHaveCount(1)->and($objects[0])->toHaveKey('error');
    }
});
