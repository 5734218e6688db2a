<?php

declare(strict_types=1);

/*
 * The history with so many entries (10,000,000 unless --docs says otherwise): how long each question of the audit takes.
 */

use App\Audit\AuditFilter;
use App\Audit\AuditSearch;
use App\Models\User;
use Illuminate\Support\Facades\DB;

require dirname(__DIR__).'/vendor/autoload.php';

$options = getopt('', ['entries::', 'json']);
$entries = (int) ($options['entries'] ?? 10_000_000);
$folder = sys_get_temp_dir().'/brenvic-bench-audit';
@mkdir($folder, 0700, true);
putenv("BRENVIC_DATA={$folder}");
$app = require dirname(__DIR__).'/bootstrap/app.php';
$app->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap();
config(['brenvic.data' => $folder]);
@touch("{$folder}/brenvic.sqlite");
$app->make(Illuminate\Contracts\Console\Kernel::class)->call('migrate', ['--force' => true]);
if (User::query()->doesntExist()) {
    Demo\TrustDesign::install();
}
$known = (int) DB::table('history')->max('id');
if ($known < $entries) {
    fwrite(STDERR, "Making {$entries} entries…\n");
    DB::statement('PRAGMA synchronous = OFF');
    mt_srand(3);
    $people = User::query()->pluck('id')->all();
    $acts = ['viewed', 'viewed', 'viewed', 'viewed', 'viewed', 'changed', 'filed', 'delivered', 'commented', 'revealed', 'held'];
    $start = strtotime('2016-01-01');
    $step = (time() - $start) / $entries;
    for ($id = $known + 1; $id <= $entries;) {
        DB::transaction(static function () use (&$id, $entries, $people, $acts, $start, $step): void {
            for ($piece = 0; $piece < 40 && $id <= $entries; $piece++) {
                $rows = [];
                for ($i = 0; $i < 500 && $id <= $entries; $i++, $id++) {
                    $hash = hash('xxh128', (string) $id).hash('xxh128', "x{$id}");
                    $rows[] = [
                        'id' => $id,
                        'at' => gmdate('Y-m-d\TH:i:s\Z', (int) ($start + $id * $step)),
                        'user_id' => $people[mt_rand(0, count($people) - 1)],
                        'act' => $acts[mt_rand(0, 10)],
                        'document_id' => mt_rand(1, 1_000_000),
                        'detail' => '{}',
                        'hash' => $hash,
                        'detail_sum' => $hash,
                        'library_id' => mt_rand(1, 6),
                    ];
                }
                DB::table('history')->insert($rows);
            }
        });
        if ($id % 1_000_000 < 20_000) {
            fwrite(STDERR, number_format($id)."\n");
        }
    }
    DB::statement('ANALYZE');
}
$manager = User::query()->where('sign_in', 'manager')->firstOrFail();
$day = gmdate('Y-m-d', strtotime('2021-03-15'));
$ref = App\Models\Document::refOf(4_711);
$cases = [
    'the latest' => new AuditFilter(),
    'all that a person did on a day' => new AuditFilter(person: 'clerk', from: $day, until: $day),
    'who saw a document' => new AuditFilter(act: 'viewed', document: $ref),
    'everything about a document' => new AuditFilter(document: $ref),
    'one act in a year' => new AuditFilter(act: 'revealed', from: '2019-01-01', until: '2019-12-31'),
    'a person and an act' => new AuditFilter(person: 'reader', act: 'delivered'),
    'a library in a month' => new AuditFilter(library: 'harbour', from: '2020-05-01', until: '2020-05-31'),
    'a person, an act and a library in a month' => new AuditFilter('reader', 'held', null, 'works', '2018-02-01', '2018-02-28'),
];
foreach ($cases as $name => $filter) {
    $times = [];
    for ($i = 0; $i < 7; $i++) {
        $since = hrtime(true);
        $page = app(AuditSearch::class)->page($manager, $filter, null);
        $times[] = (hrtime(true) - $since) / 1e6;
    }
    sort($times);
    echo isset($options['json'])
        ? json_encode(['suite' => 'audit', 'case' => $name, 'engine' => 'brenvic', 'docs' => $entries, 'median_ms' => round($times[3], 2), 'p95_ms' => round($times[6], 2)])."\n"
        : sprintf("%-46s %4d found  median %7.1f ms  slowest %7.1f ms\n", $name, count($page['entries']), $times[3], $times[6]);
}
