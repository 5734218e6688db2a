<?php

declare(strict_types=1);

/*
 * Reports over so many documents (1,000,000 unless --docs says otherwise), as many entries of the history within a year and 50,000
 * searches, in the data folder of the suite "retention": how long each takes.
 */

use App\Models\User;
use App\Reports\Asked;
use App\Reports\Reports;
use Bench\KeptOffice;
use Brenvic\Core\Reports\Span;
use Illuminate\Support\Facades\DB;

require dirname(__DIR__).'/vendor/autoload.php';

$options = getopt('', ['docs::', 'json']);
$documents = (int) ($options['docs'] ?? 1_000_000);
KeptOffice::open();
KeptOffice::fill($documents);
$people = User::query()->pluck('id')->all();
mt_srand(5);
$acts = ['viewed', 'viewed', 'viewed', 'viewed', 'changed', 'filed', 'delivered'];
$start = strtotime('2025-12-01');
DB::statement('PRAGMA synchronous = OFF');
for ($id = (int) DB::table('history')->max('id') + 1; $id <= $documents;) {
    DB::transaction(static function () use (&$id, $documents, $people, $acts, $start): void {
        for ($piece = 0; $piece < 40 && $id <= $documents; $piece++) {
            $rows = [];
            for ($i = 0; $i < 500 && $id <= $documents; $i++, $id++) {
                $rows[] = [
                    'id' => $id, 'at' => gmdate('Y-m-d\TH:i:s\Z', $start + intdiv($id * 31_536_000, $documents)),
                    'user_id' => $people[mt_rand(0, count($people) - 1)], 'act' => $acts[mt_rand(0, 6)], 'document_id' => mt_rand(1, $documents),
                    'detail' => '{}', 'hash' => (string) $id, 'detail_sum' => '', 'library_id' => mt_rand(1, 6),
                ];
            }
            DB::table('history')->insert($rows);
        }
    });
}
while (($id = (int) DB::table('asked_searches')->max('id')) < 50_000) {
    DB::transaction(static function () use ($id, $people, $start): void {
        foreach (range(1, 500) as $i) {
            $word = 'word'.mt_rand(1, 3_000);
            DB::table('asked_searches')->insert([
                'at' => gmdate('Y-m-d H:i:s', $start + ($id + $i) * 630), 'user_id' => $people[mt_rand(0, count($people) - 1)], 'hash' => $word,
                'search' => json_encode(['criteria' => [['cql' => $word, 'negated' => false, 'on' => true]]]), 'cql' => $word,
                'total' => mt_rand(0, 9) > 1 ? 12 : 0, 'milliseconds' => mt_rand(5, 300),
            ]);
        }
    });
}
DB::statement('PRAGMA synchronous = NORMAL');
DB::statement('ANALYZE');
$periods = ['a month' => new Span('2026-10-01', '2026-10-31'), 'a year' => new Span('2025-12-01', '2026-11-30')];
foreach (app(Reports::class)->all() as $report) {
    foreach ($report->hasPeriod() ? $periods : ['now' => $periods['a month']] as $name => $span) {
        foreach (['manager', 'reader'] as $who) {
            $times = [];
            for ($i = 0; $i < 5; $i++) {
                app()->forgetScopedInstances();
                $user = User::query()->where('sign_in', $who)->firstOrFail();
                $of = app(Reports::class)->find($report->code()) ?? throw new LogicException($report->code());
                $since = hrtime(true);
                $of->tables($user, new Asked($span));
                $times[] = (hrtime(true) - $since) / 1e6;
            }
            sort($times);
            $case = "{$report->name()}, {$name}, by the {$who}";
            echo isset($options['json'])
                ? json_encode(['suite' => 'reports', 'case' => $case, 'engine' => 'brenvic', 'docs' => $documents, 'median_ms' => round($times[2], 1)])."\n"
                : sprintf("%-52s %10.1f ms, slowest %10.1f\n", $case, $times[2], $times[4]);
        }
    }
}
