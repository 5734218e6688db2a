<?php

declare(strict_types=1);

/*
 * Benchmarks: ./brenvic bench [search|index] [--docs=N] [--json]
 *
 * A synthetic collection is made by a seeded generator and indexed twice, by Brenvic and by SQLite's own FTS5 with one
 * GROUP BY a facet; both answer the same questions in the same run. Collections are kept in bench/data.
 */

use Bench\Corpus;
use Bench\FtsPeer;
use Bench\IndexSuite;
use Bench\Report;
use Bench\SearchSuite;

require __DIR__.'/../vendor/autoload.php';

$suites = [];
$docs = 1_000_000;
$json = false;
foreach (array_slice($argv, 1) as $argument) {
    if (preg_match('/^--docs=(\d+)$/', $argument, $m) === 1) {
        $docs = max(1_000, (int) $m[1]);
    } elseif ($argument === '--json') {
        $json = true;
    } elseif (in_array($argument, ['search', 'index'], true)) {
        $suites[] = $argument;
    } else {
        fwrite(STDERR, "bench does not know {$argument}. Suites: search, index. Options: --docs=N, --json.\n");
        exit(1);
    }
}
$suites = $suites === [] ? ['index', 'search'] : $suites;
$folder = __DIR__.'/data';
is_dir($folder) || mkdir($folder, 0775, true);
$database = "{$folder}/brenvic-{$docs}.sqlite";
if (in_array('index', $suites, true)) {
    array_map(unlink(...), glob("{$database}*") ?: []);
}
putenv("DB_DATABASE={$database}");
$_ENV['DB_DATABASE'] = $_SERVER['DB_DATABASE'] = $database;
is_file($database) || touch($database);
$application = require __DIR__.'/../bootstrap/app.php';
$application->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap();
Illuminate\Support\Facades\Artisan::call('migrate', ['--force' => true]);

$report = new Report($docs, $json);
$corpus = new Corpus($docs);
(new IndexSuite($corpus, $report))->run();
if (in_array('search', $suites, true)) {
    $peer = new FtsPeer("{$folder}/fts5-{$docs}.sqlite", $corpus);
    (new SearchSuite($corpus, $peer, $report))->run();
}
$report->finish();
