<?php

declare(strict_types=1);

/*
 * Benchmarks: ./brenvic bench [search|index|design|ranking|themes] [--docs=N] [--json]; browser and retrieve have files of their own
 *
 * A synthetic collection is made by a seeded generator and indexed by Brenvic and by each peer that is installed:
 * SQLite's own FTS5, PostgreSQL, Xapian. All answer the same questions in the same run. Collections are kept in
 * bench/data.
 */

use Bench\Corpus;
use Bench\DesignSuite;
use Bench\FtsPeer;
use Bench\IndexSuite;
use Bench\PostgresPeer;
use Bench\Question;
use Bench\RankingSuite;
use Bench\Report;
use Bench\SearchSuite;
use Bench\ThemesSuite;
use Bench\XapianPeer;

$started = hrtime(true);

require __DIR__.'/../vendor/autoload.php';

$suites = [];
$docs = 1_000_000;
$json = false;
$asked = '';
foreach (array_slice($argv, 1) as $argument) {
    if (preg_match('/^--docs=(\d+)$/', $argument, $m) === 1) {
        $docs = max(1_000, (int) $m[1]);
    } elseif ($argument === '--json') {
        $json = true;
    } elseif (preg_match('/^--question=(.+)$/', $argument, $m) === 1) {
        $asked = $m[1];
    } elseif (in_array($argument, ['search', 'index', 'design', 'ranking', 'themes', 'cold'], true)) {
        $suites[] = $argument;
    } else {
        fwrite(STDERR, "bench does not know {$argument}. Suites: search, index, design, ranking, themes. Options: --docs=N, --json.\n");
        exit(1);
    }
}
$suites = $suites === [] ? ['index', 'search', 'design'] : $suites;
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
$report = new Report($docs, $json);
if ($suites === ['cold']) {
    // The whole process, from its first line to the answer.
    foreach (Question::all() as $question) {
        if ($question->name === $asked) {
            $steps = [];
            (new SearchSuite([], $report))->answer($question, $steps);
            echo(hrtime(true) - $started) / 1e6, "\n";
        }
    }
    exit;
}
if ($suites === ['ranking']) {
    (new RankingSuite($folder, $report))->run();
    exit;
}
Illuminate\Support\Facades\Artisan::call('migrate', ['--force' => true]);
$corpus = new Corpus($docs);
(new IndexSuite($corpus, $report))->run();
if (in_array('search', $suites, true)) {
    $peers = [new FtsPeer("{$folder}/fts5-{$docs}.sqlite", $corpus)];
    foreach ([[PostgresPeer::class, 'postgres'], [XapianPeer::class, 'xapian']] as [$class, $name]) {
        if ($class::isThere()) {
            $report->note("  preparing {$name}");
            $peers[] = new $class("{$folder}/{$name}-{$docs}", $corpus);
        } else {
            $report->note("  {$name} is not installed and is left out (apt-get install postgresql-15 python3-xapian)");
        }
    }
    (new SearchSuite($peers, $report))->run();
}
if (in_array('themes', $suites, true)) {
    (new ThemesSuite($report))->run();
}
if (in_array('design', $suites, true)) {
    (new DesignSuite($corpus, $report))->run();
}
$report->finish();
