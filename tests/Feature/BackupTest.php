<?php

declare(strict_types=1);

use App\Backup\Backups;
use App\Backup\Sealed;
use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** An office of its own with some documents, and a folder for its backups; everything is done by processes, as an office does it. */
final class BackedOffice
{
    public string $root;

    public string $data;

    public string $backups;

    public string $key = '';

    public function __construct()
    {
        $this->root = dirname(__DIR__, 2);
        $folder = sys_get_temp_dir().'/brenvic-backup-'.bin2hex(random_bytes(6));
        [$this->data, $this->backups] = ["{$folder}/data", "{$folder}/backups"];
        mkdir($this->data, 0777, true);
        touch("{$this->data}/brenvic.sqlite");
        $this->run(['tests/empty-office.php']);
        mkdir("{$folder}/in");
        foreach (['sluice' => 'The sluice at Wend is shut for the winter, and zirconia was found in the silt.', 'weir' => 'The weir is low.'] as $name => $text) {
            file_put_contents("{$folder}/in/{$name}.txt", $text);
        }
        file_put_contents("{$folder}/values.csv", "file,type,waterway,document_date\nsluice.txt,stoppage_notice,tarn-sea,2024-03-01\nweir.txt,stoppage_notice,tarn-sea,2024-03-02\n");
        $this->run(['artisan', 'brenvic:import', "{$folder}/in", '--library=waterways', "--values={$folder}/values.csv"]);
    }

    /** @param  list<string>  $command */
    public function process(array $command, ?string $data = null): Process
    {
        return new Process(['php', '-d', 'memory_limit=1G', ...$command], $this->root, [
            'BRENVIC_DATA' => $data ?? $this->data,
            'DB_DATABASE' => ($data ?? $this->data).'/brenvic.sqlite',
            'BRENVIC_BACKUP' => $this->backups,
            'BRENVIC_BACKUP_KEY' => $this->key,
            'QUEUE_CONNECTION' => 'sync',
            'APP_ENV' => 'production',
            'CACHE_STORE' => 'array',
        ], timeout: 120);
    }

    /** @param  list<string>  $command */
    public function run(array $command, ?string $data = null, int $code = 0): string
    {
        $process = $this->process($command, $data);
        $process->run();
        $said = $process->getOutput().$process->getErrorOutput();
        expect($process->getExitCode())->toBe($code, implode(' ', $command)."\n{$said}");

        return $said;
    }

    public function ref(string $file, ?string $data = null): string
    {
        $found = Backups::pdo(($data ?? $this->data).'/brenvic.sqlite')->query("SELECT ref FROM documents WHERE file_name = '{$file}.txt'");

        $ref = (string) ($found === false ? '' : $found->fetchColumn());
        expect($ref)->toStartWith('D-');

        return $ref;
    }

    /** @return array<string, string> SHA-256 by path, by the system's own program */
    public function sums(string $data): array
    {
        exec('cd '.escapeshellarg("{$data}/files").' && find . -type f | sort | xargs sha256sum', $lines);

        return array_combine(array_map(static fn (string $l): string => substr($l, 66), $lines), array_map(static fn (string $l): string => substr($l, 0, 64), $lines));
    }

    public function __destruct()
    {
        (new Filesystem())->deleteDirectory(dirname($this->data));
    }
}

it('recovers an office from its backup, after all of it was lost', function (bool $isEncrypted) {
    $office = new BackedOffice();
    $isEncrypted && ($office->key = trim($office->run(['artisan', 'brenvic:backup', 'key'])));
    $office->run(['artisan', 'brenvic:backup']);
    $sums = $office->sums($office->data);
    $ref = $office->ref('sluice');
    expect($office->run(['artisan', 'brenvic:backup', 'verify']))->toContain('is whole');
    $kept = (string) shell_exec('cat $(find '.escapeshellarg($office->backups).' -type f)');
    expect(str_contains($kept, 'zirconia'))->toBe(! $isEncrypted);
    // The drill of docs/running.md.
    (new Filesystem())->deleteDirectory($office->data);
    $restored = dirname($office->data).'/restored';
    expect($office->run(['artisan', 'brenvic:restore', "--into={$restored}"]))->toContain('Start with BRENVIC_DATA');
    expect($office->sums($restored))->toBe($sums)->and($office->ref('sluice', $restored))->toBe($ref);
    expect($office->run(['artisan', 'brenvic:check'], $restored))->toContain('agree');
    expect($office->run(['artisan', 'brenvic:history:verify'], $restored))->toContain('hold');
    expect($office->run(['artisan', 'brenvic:search', 'zirconia', '--as=clerk'], $restored))->toContain($ref);
    // Nothing is written over.
    expect($office->run(['artisan', 'brenvic:restore', "--into={$restored}"], code: 1))->toContain('is not empty');
    $office->key = base64_encode(random_bytes(32));
    $office->run(['artisan', 'brenvic:restore', "--into={$restored}-other"], code: 1);
    expect(is_file("{$restored}-other/brenvic.sqlite"))->toBeFalse();
})->with([false, true]);

it('names what is damaged, and mends one document', function () {
    $office = new BackedOffice();
    $office->run(['artisan', 'brenvic:backup']);
    $ref = $office->ref('sluice');
    $sums = $office->sums($office->data);
    $path = "{$office->data}/files/".substr((string) array_key_first(array_filter($sums, static fn (string $sum): bool => $sum === hash('sha256', (string) file_get_contents(dirname($office->data).'/in/sluice.txt')))), 2);
    chmod($path, 0644);
    file_put_contents($path, 'Not what was stored.');
    expect($office->run(['artisan', 'brenvic:restore', "--document={$ref}"]))->toContain('0 documents and 1 files');
    expect($office->sums($office->data))->toBe($sums);
    unlink($path);
    expect($office->run(['artisan', 'brenvic:backup'], code: 2))->toContain("A file of {$ref} is missing");
    $first = Backups::pdo("{$office->data}/brenvic.sqlite");
    // As when it was destroyed: all of it is gone, and comes back from the backup in which it was whole.
    foreach (['document_values', 'pages', 'versions'] as $table) {
        $first->exec("DELETE FROM {$table} WHERE document_id = (SELECT id FROM documents WHERE ref = '{$ref}')");
    }
    $first->exec('PRAGMA foreign_keys = ON');
    $first->exec("DELETE FROM documents WHERE ref = '{$ref}'");
    $office->run(['artisan', 'brenvic:rebuild']);
    expect($office->run(['artisan', 'brenvic:search', 'zirconia', '--as=clerk']))->not->toContain($ref);
    $oldest = basename((string) (glob("{$office->backups}/snapshots/*") ?: [''])[0]);
    expect($office->run(['artisan', 'brenvic:restore', $oldest, "--document={$ref}"]))->toContain('1 documents and 1 files');
    expect($office->run(['artisan', 'brenvic:search', 'zirconia', '--as=clerk']))->toContain($ref);
    expect($office->run(['artisan', 'brenvic:check']))->toContain('agree');
    expect($office->sums($office->data))->toBe($sums);
    expect($office->run(['artisan', 'brenvic:restore', '--document=D-99999-X'], code: 1))->toContain('no document');
    // A damaged backup does not pass for a whole one.
    $content = (string) (glob("{$office->backups}/contents/*/*") ?: [''])[0];
    chmod($content, 0644);
    file_put_contents($content, 'x', FILE_APPEND);
    expect($office->run(['artisan', 'brenvic:backup', 'verify', $oldest], code: 2))->toContain('is not what was kept');
});

it('is whole or not there, whenever it is killed', function () {
    $office = new BackedOffice();
    seeded(2005);
    for ($round = 0; $round < 12; $round++) {
        $process = $office->process(['artisan', 'brenvic:backup']);
        $process->start();
        usleep(mt_rand(50_000, 700_000));
        $process->isRunning() && $process->signal(SIGKILL);
        $process->wait(static fn () => null);
    }
    foreach (glob("{$office->backups}/snapshots/*Z") ?: [] as $made) {
        expect($office->run(['artisan', 'brenvic:backup', 'verify', basename($made)]))->toContain('is whole');
    }
    $office->run(['artisan', 'brenvic:backup']);
    expect($office->run(['artisan', 'brenvic:backup', 'verify']))->toContain('is whole')
        ->and(glob("{$office->backups}/snapshots/*.part"))->toBe([])
        ->and(glob("{$office->data}/backup-work*"))->toBe([]);
});

it('keeps of each day, week and month the latest, for as long as is said', function () {
    seeded(2006);
    $names = [];
    for ($at = new DateTimeImmutable('2026-11-30T23:00:00Z'), $i = 0; $i < 400; $i++) {
        $at = $at->modify('-'.mt_rand(6, 40).' hours');
        $names[] = $at->format('Y-m-d\THis\Z');
    }
    foreach ([[7, 5, 12], [1, 0, 0], [0, 0, 0], [400, 0, 0], [3, 2, 1]] as [$days, $weeks, $months]) {
        $byHand = [$names[0]];
        foreach ([['Y-m-d', $days], ['o-W', $weeks], ['Y-m', $months]] as [$form, $most]) {
            $by = [];
            foreach ($names as $name) {
                $by[(new DateTimeImmutable(substr($name, 0, 10)))->format($form)][] = $name;
            }
            foreach (array_slice($by, 0, $most) as $of) {
                $byHand[] = max($of);
            }
        }
        expect(Backups::kept($names, $days, $weeks, $months))->toEqualCanonicalizing(array_unique($byHand));
    }
    expect(Backups::kept([], 7, 5, 12))->toBe([]);
});

it('tells a sealed file that was changed, cut off or swapped from a whole one', function () {
    seeded(2007);
    $folder = sys_get_temp_dir().'/brenvic-sealed-'.bin2hex(random_bytes(4));
    mkdir($folder);
    foreach ([null, random_bytes(32)] as $key) {
        $sealed = new Sealed($key);
        foreach ([0, 1, 1_048_575, 1_048_576, 1_048_577, 3_000_000] as $size) {
            $text = $size === 0 ? '' : random_bytes($size);
            file_put_contents("{$folder}/plain", $text);
            expect($sealed->seal("{$folder}/plain", "{$folder}/sealed"))->toBe(hash('sha256', $text));
            expect($sealed->open("{$folder}/sealed", "{$folder}/opened"))->toBe(hash('sha256', $text))->and(file_get_contents("{$folder}/opened"))->toBe($text);
            expect($sealed->hash("{$folder}/sealed"))->toBe(hash('sha256', $text));
            unlink("{$folder}/opened");
            if ($key !== null) {
                $is = (string) file_get_contents("{$folder}/sealed");
                $at = mt_rand(8, strlen($is) - 1);
                $changed = $is;
                $changed[$at] = chr(ord($is[$at]) ^ 1);
                foreach ([$changed, substr($is, 0, -1), substr($is, 0, mt_rand(0, strlen($is) - 1)), "{$is}x"] as $broken) {
                    file_put_contents("{$folder}/broken", $broken);
                    expect(fn () => $sealed->open("{$folder}/broken", "{$folder}/opened"))->toThrow(RuntimeException::class);
                    expect(is_file("{$folder}/opened"))->toBeFalse();
                }
                expect(fn () => (new Sealed(random_bytes(32)))->text("{$folder}/sealed"))->toThrow(RuntimeException::class);
                expect(fn () => (new Sealed(null))->text("{$folder}/sealed"))->toThrow(RuntimeException::class);
            }
            unlink("{$folder}/sealed");
        }
    }
    (new Filesystem())->deleteDirectory($folder);
});
