<?php

declare(strict_types=1);

/*
 * How long a design takes to be proposed from a table: ./brenvic bench proposal [--rows=N]
 *
 * A table of 40 columns of ten sorts is written and read as one that is given, in one walk; then its columns are judged.
 */

use App\Tables\TableFile;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\TableScan;

require __DIR__.'/../vendor/autoload.php';

$rows = 1_000_000;
foreach (array_slice($argv, 1) as $argument) {
    if (preg_match('/^--rows=(\d+)$/', $argument, $m) === 1) {
        $rows = max(100, (int) $m[1]);
    }
}
ini_set('memory_limit', '512M');
mt_srand(9);
$path = __DIR__.'/data/table.csv';
is_dir(dirname($path)) || mkdir(dirname($path), 0775, true);
$stream = fopen($path, 'wb') ?: throw new RuntimeException("{$path} cannot be written.");
fwrite($stream, implode(',', array_map(static fn (int $c): string => "Column {$c}", range(0, 39)))."\n");
for ($i = 0; $i < $rows; $i++) {
    $cells = [];
    for ($c = 0; $c < 40; $c++) {
        $cells[] = match ($c % 10) {
            0 => sprintf('ID-%09d', $i * 40 + $c),
            1 => sprintf('%d/%d/%d', mt_rand(1, 28), mt_rand(1, 12), mt_rand(1990, 2024)),
            2 => mt_rand(0, 99_999) / 100,
            3 => 'Term '.mt_rand(1, 40),
            4 => 'Place '.mt_rand(1, 900),
            5 => mt_rand(0, 1) === 1 ? 'yes' : 'no',
            6 => 'some words '.mt_rand(1, 100_000),
            7 => '',
            8 => '£'.mt_rand(1, 9_999),
            default => 'NAV.0'.mt_rand(1, 5).'.'.mt_rand(1, 9),
        };
    }
    fwrite($stream, implode(',', $cells)."\n");
}
fclose($stream);
$since = hrtime(true);
$scan = TableScan::of((new TableFile($path))->rows());
$read = (hrtime(true) - $since) / 1e9;
$since = hrtime(true);
$proposal = TableProposal::of($scan, new Design());
$judged = (hrtime(true) - $since) / 1e9;
printf(
    "%s rows of %d columns: read %.1f s, proposed %.1f s, %d MB at most\n",
    number_format($scan->rows),
    count($proposal->columns),
    $read,
    $judged,
    memory_get_peak_usage(true) >> 20,
);
unlink($path);
