<?php

declare(strict_types=1);

/*
 * Retention on so many documents (1,000,000 unless --docs says otherwise), all in one data folder that is kept: how fast the rule
 * and the due date of all of them are computed and put into the index, what it costs at a change, and how long the due list takes.
 */

use App\Catalog\Catalog;
use App\Catalog\DesignTables;
use App\Design\PartShape;
use App\Index\Indexer;
use App\Index\SqliteStore;
use App\Models\Field;
use App\Models\Library;
use App\Models\User;
use App\Oversight\DueList;
use App\Reports\Asked;
use App\Reports\QualityReport;
use App\Retention\KeptFacts;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Reports\Span;
use Brenvic\Core\Retention\RetentionAction;
use Illuminate\Support\Facades\DB;

require dirname(__DIR__).'/vendor/autoload.php';

$options = getopt('', ['docs::', 'json']);
$documents = (int) ($options['docs'] ?? 1_000_000);
$folder = sys_get_temp_dir().'/brenvic-bench-retention';
@mkdir($folder, 0700, true);
putenv("BRENVIC_DATA={$folder}");
$app = require dirname(__DIR__).'/bootstrap/app.php';
$kernel = $app->make(Illuminate\Contracts\Console\Kernel::class);
$kernel->bootstrap();
config(['brenvic.data' => $folder]);
@touch("{$folder}/brenvic.sqlite");
$kernel->call('migrate', ['--force' => true]);
if (User::query()->doesntExist()) {
    Demo\TrustDesign::install();
    app()->forgetScopedInstances();
}
$say = static function (string $case, float $value, string $unit) use ($options, $documents): void {
    echo isset($options['json'])
        ? json_encode(['suite' => 'retention', 'case' => $case, 'engine' => 'brenvic', 'docs' => $documents, $unit => round($value, 2)])."\n"
        : sprintf("%-58s %10.1f %s\n", $case, $value, $unit);
};
$types = DB::table('document_types')->pluck('id', 'code')->all();
$codes = array_keys($types);
$library = Library::query()->where('code', 'waterways')->firstOrFail();
$fields = Field::query()->whereIn('code', ['document_date', 'subject'])->pluck('id', 'code')->all();
$concepts = ['NAV.01', 'NAV.02.3', 'NAV.03', 'HAR.01.1', 'HAR.03', 'WRK.01', 'WRK.02', 'HER', 'GOV.01'];
mt_srand(11);
$clerk = (int) User::query()->where('sign_in', 'clerk')->value('id');
$empty = app(App\Files\FileStore::class)->takeContents('x')[0];
$begin = (int) DB::table('documents')->max('id') + 1;
DB::statement('PRAGMA synchronous = OFF');
for ($id = $begin; $id <= $documents;) {
    $rows = $values = $indexed = [];
    for ($i = 0; $i < 5_000 && $id <= $documents; $i++, $id++) {
        $code = $codes[mt_rand(0, count($codes) - 1)];
        $rows[] = [
            'id' => $id, 'ref' => App\Models\Document::refOf($id), 'library_id' => $library->id, 'document_type_id' => $types[$code],
            'title' => "Document {$id}", 'file_name' => 'x.txt', 'file_kind' => 'text', 'sha256' => $empty, 'bytes' => 1, 'state' => 'filed',
            'text_state' => 'read', 'created_by' => $clerk, 'filed_at' => '2020-01-01 00:00:00', 'created_at' => '2020-01-01 00:00:00',
        ];
        $date = sprintf('%04d-%02d-%02d', mt_rand(1990, 2026), mt_rand(1, 12), mt_rand(1, 28));
        if ($id % 50 !== 0) {
            $values[] = ['document_id' => $id, 'field_id' => $fields['document_date'], 'position' => 0, 'value' => $date];
        }
        $values[] = ['document_id' => $id, 'field_id' => $fields['subject'], 'position' => 0, 'value' => $concepts[mt_rand(0, 8)]];
        $text = implode(' ', array_map(static fn (): string => 'word'.mt_rand(1, 30_000), range(1, 60)));
        $indexed[] = new IndexedDocument($id, ['text' => [$text]], ['library' => ['waterways'], 'type' => [$code]], [], ['library', 'type']);
    }
    DB::transaction(static function () use ($rows, $values, $indexed): void {
        foreach (array_chunk($rows, 500) as $chunk) {
            DB::table('documents')->insert($chunk);
        }
        foreach (array_chunk($values, 2_000) as $chunk) {
            DB::table('document_values')->insert($chunk);
        }
        $writer = new IndexWriter(new SqliteStore());
        $writer->put($indexed);
        $writer->flush();
    });
    $id % 100_000 < 5_000 && fwrite(STDERR, number_format($id)."\n");
}
DB::statement('PRAGMA synchronous = NORMAL');
/** A rule of a type, so that all its documents have another date each time. */
$design = app(Catalog::class)->design();
$before = $design->part(DesignKind::Type, 'contract') ?? [];
$rule = ['after' => 'document_date', 'years' => 5 + (int) date('s'), 'action' => 'review'];
$changed = PartShape::complete(DesignKind::Type, [...$before, 'retention' => $rule]);
app(DesignTables::class)->apply(new DesignChange(DesignKind::Type, 'contract', $before, $changed), 2);
app()->forgetScopedInstances();

$since = hrtime(true);
for ($from = 1; $from <= $documents; $from += 5_000) {
    app(KeptFacts::class)->keepings(range($from, min($documents, $from + 4_999)));
}
$say('rule, date and reason computed', $documents / ((hrtime(true) - $since) / 1e9), 'documents a second');
$since = hrtime(true);
for ($from = 1; $from <= $documents; $from += 5_000) {
    DB::transaction(static fn () => app(Indexer::class)->retention(range($from, min($documents, $from + 4_999))));
}
$say('computed and put into the index', $documents / ((hrtime(true) - $since) / 1e9), 'documents a second');
$since = hrtime(true);
for ($from = 1; $from <= $documents; $from += 5_000) {
    DB::transaction(static fn () => app(Indexer::class)->retention(range($from, min($documents, $from + 4_999))));
}
$say('the same where nothing is other than it was', $documents / ((hrtime(true) - $since) / 1e9), 'documents a second');
$times = [];
for ($i = 0; $i < 15; $i++) {
    $id = mt_rand(1, $documents);
    $since = hrtime(true);
    DB::transaction(static fn () => app(Indexer::class)->retention([$id]));
    $times[] = (hrtime(true) - $since) / 1e6;
}
sort($times);
$say('one document', $times[7], 'median_ms');
$manager = User::query()->where('sign_in', 'manager')->firstOrFail();
foreach (['the due list' => [], 'the due list of a rule' => ['rule' => 'concept.subject.NAV.03']] as $case => $only) {
    $times = [];
    for ($i = 0; $i < 9; $i++) {
        $since = hrtime(true);
        $list = app(DueList::class)->of($manager, $only);
        $times[] = (hrtime(true) - $since) / 1e6;
    }
    sort($times);
    $say($case, $times[4], 'median_ms');
    $say("{$case}, slowest", $times[8], 'median_ms');
}
$times = [];
for ($i = 0; $i < 9; $i++) {
    $since = hrtime(true);
    app(DueList::class)->period($manager, null, date('Y-m-d'), RetentionAction::Destroy, []);
    $times[] = (hrtime(true) - $since) / 1e6;
}
sort($times);
$say('what is due in a period, by rule and library', $times[4], 'median_ms');
$times = [];
for ($i = 0; $i < 5; $i++) {
    $since = hrtime(true);
    app(QualityReport::class)->tables($manager, new Asked(new Span(date('Y-m-d'), date('Y-m-d'))));
    $times[] = (hrtime(true) - $since) / 1e6;
}
sort($times);
$say('report of indexing quality', $times[2], 'median_ms');
$say('report of indexing quality, slowest', $times[4], 'median_ms');
