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
use App\Models\User;
use App\Oversight\DueList;
use App\Retention\KeptFacts;
use Bench\KeptOffice;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Retention\RetentionAction;
use Illuminate\Support\Facades\DB;

require dirname(__DIR__).'/vendor/autoload.php';

$options = getopt('', ['docs::', 'json']);
$documents = (int) ($options['docs'] ?? 1_000_000);
KeptOffice::open();
$say = static function (string $case, float $value, string $unit) use ($options, $documents): void {
    echo isset($options['json'])
        ? json_encode(['suite' => 'retention', 'case' => $case, 'engine' => 'brenvic', 'docs' => $documents, $unit => round($value, 2)])."\n"
        : sprintf("%-58s %10.1f %s\n", $case, $value, $unit);
};
KeptOffice::fill($documents);
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
