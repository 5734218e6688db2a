<?php

declare(strict_types=1);

/*
 * Kills everything that takes long at random moments and looks whether anything was lost, doubled or half done:
 * ./brenvic bench kills [--kills=100] [--seed=1]
 *
 * In an office of its own, one after the other: files brought in, texts read by a worker, values changed, the index rebuilt, a bag
 * exported, a backup made, people taken in. Each is killed with SIGKILL after a random time; then all is done once more to its end, and
 * held against what there should be by programs that know nothing of it (sha256sum, SQLite's own check).
 */

use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

require __DIR__.'/../vendor/autoload.php';

[$kills, $seed] = [100, 1];
foreach (array_slice($argv, 1) as $argument) {
    match (true) {
        preg_match('/^--kills=(\d+)$/', $argument, $m) === 1 => ($kills = (int) $m[1]),
        preg_match('/^--seed=(\d+)$/', $argument, $m) === 1 => ($seed = (int) $m[1]),
        $argument === 'kills' => null,
        default => exit("bench does not know {$argument}.\n"),
    };
}
mt_srand($seed);
$root = dirname(__DIR__);
$folder = __DIR__.'/data/kills';
(new Filesystem())->deleteDirectory($folder);
mkdir("{$folder}/data", 0775, true);
mkdir("{$folder}/in");
touch("{$folder}/data/brenvic.sqlite");
$process = static fn (array $command): Process => new Process(['php', '-d', 'memory_limit=1G', ...$command], $root, [
    'BRENVIC_DATA' => "{$folder}/data",
    'DB_DATABASE' => "{$folder}/data/brenvic.sqlite",
    'BRENVIC_BACKUP' => "{$folder}/backups",
    'QUEUE_CONNECTION' => 'database',
    'BRENVIC_WORKER' => '7',
    'CACHE_STORE' => 'file',
], timeout: 600);
$done = static function (array $command) use ($process): string {
    $of = $process($command);
    $of->run();
    if ($of->getExitCode() !== 0) {
        fwrite(STDERR, implode(' ', $command)." ended with {$of->getExitCode()}\n".$of->getOutput().$of->getErrorOutput());
        exit(1);
    }

    return $of->getOutput();
};
$done(['tests/empty-office.php']);
$made = 0;
$more = static function (int $count) use (&$made, $folder): void {
    for ($i = 0; $i < $count; $i++) {
        $made++;
        file_put_contents("{$folder}/in/report-{$made}.txt", "The keeper of lock {$made} reports that gate {$made} was greased and the sill is sound.\n");
    }
    $rows = array_map(static fn (int $n): string => "report-{$n}.txt,stoppage_notice,tarn-sea,2024-03-01", range(1, $made));
    file_put_contents("{$folder}/values.csv", "file,type,waterway,document_date\n".implode("\n", $rows)."\n");
};
file_put_contents("{$folder}/people.csv", "sign_in,name\n".implode("\n", array_map(static fn (int $n): string => "p{$n},Person {$n}", range(1, 40)))."\n");
$queues = '--queue='.implode(',', array_column(App\Jobs\Urgency::cases(), 'value'));
$acts = [
    'import' => ['artisan', 'brenvic:import', "{$folder}/in", '--library=waterways', "--values={$folder}/values.csv", '--queue'],
    'worker' => ['artisan', 'queue:work', '--stop-when-empty', '--quiet', $queues],
    'rebuild' => ['artisan', 'brenvic:rebuild'],
    'backup' => ['artisan', 'brenvic:backup'],
    'export' => ['artisan', 'brenvic:export', 'keeper', "--to={$folder}/out", '--format=bag', '--as=librarian'],
    'people' => ['artisan', 'brenvic:people', 'import', "{$folder}/people.csv"],
];
$killed = array_fill_keys(array_keys($acts), 0);
// So long each takes, in seconds, so that kills fall everywhere within it.
$takes = array_fill_keys(array_keys($acts), 1.0);
for ($at = 0; $at < $kills;) {
    $name = array_keys($acts)[mt_rand(0, count($acts) - 1)];
    $name === 'import' && $more(mt_rand(1, 6));
    $name === 'export' && (new Filesystem())->deleteDirectory("{$folder}/out");
    $of = $process($acts[$name]);
    $since = microtime(true);
    $of->start();
    usleep((int) (mt_rand(100, 1_100) * 1_000 * $takes[$name]));
    if ($of->isRunning()) {
        $of->signal(SIGKILL);
        $killed[$name]++;
        $at++;
    } else {
        $takes[$name] = microtime(true) - $since;
    }
    $of->wait();
}
// Everything to its end.
$done($acts['import']);
$done($acts['people']);
$done($acts['worker']);
$done(['artisan', 'brenvic:rebuild']);
$done($acts['backup']);
$faults = [];
$pdo = new PDO("sqlite:{$folder}/data/brenvic.sqlite");
$asked = static fn (string $sql): PDOStatement => $pdo->query($sql) ?: throw new RuntimeException($sql);
$one = static fn (string $sql): mixed => $asked($sql)->fetchColumn();
$expect = static function (string $what, mixed $is, mixed $should) use (&$faults): void {
    printf("%-58s %s\n", $what, is_scalar($is) ? (string) $is : json_encode($is));
    $is === $should || ($faults[] = "{$what} should be ".json_encode($should));
};
$expect('the database, by SQLite', $one('PRAGMA integrity_check'), 'ok');
$expect('references that lead nowhere', count($asked('PRAGMA foreign_key_check')->fetchAll()), 0);
$expect('documents', (int) $one('SELECT count(*) FROM documents'), $made);
$expect('documents of which each file has one', (int) $one('SELECT count(DISTINCT sha256) FROM documents'), $made);
$expect('texts that are not read', (int) $one("SELECT count(*) FROM documents WHERE text_state != 'read'"), 0);
$expect('jobs that wait', (int) $one('SELECT count(*) FROM jobs'), 0);
$expect('people', (int) $one('SELECT count(*) FROM users'), 45);
$expect('files that are not what their names say, by sha256sum', trim((string) shell_exec(
    'cd '.escapeshellarg("{$folder}/data/files").' && find . -type f | sed "s#.*/\(.*\)#\1  &#" | sha256sum -c --quiet 2>&1 | wc -l',
)), '0');
$expect('what was left half written', count(glob("{$folder}/data/files/*/*.part*") ?: []) + count(glob("{$folder}/backups/snapshots/*.part") ?: []), 0);
$expect('index and documents', str_contains($done(['artisan', 'brenvic:check']), 'agree'), true);
$expect('history', str_contains($done(['artisan', 'brenvic:history:verify']), 'hold'), true);
foreach (glob("{$folder}/backups/snapshots/*Z") ?: [] as $snapshot) {
    $expect('backup '.basename($snapshot), str_contains($done(['artisan', 'brenvic:backup', 'verify', basename($snapshot)]), 'is whole'), true);
}
printf("%d kills: %s\n", $kills, implode(', ', array_map(static fn (string $n, int $k): string => "{$n} {$k}", array_keys($killed), $killed)));
array_map(static fn (string $fault) => fwrite(STDERR, "{$fault}\n"), $faults);
exit($faults === [] ? 0 : 1);
