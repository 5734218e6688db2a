<?php

declare(strict_types=1);

/*
 * ./brenvic bench procedures [--cases=100000] [--open=10000] [--json]
 *
 * An office of its own with many cases, of which some are open: how long one's own list takes, a decision, and a look at all
 * deadlines. Each is measured in an application of its own state, as a request has it.
 */

use App\Catalog\Catalog;
use App\Index\Indexer;
use App\Models\Task;
use App\Models\User;
use App\Procedures\Cases;
use App\Procedures\Deadlines;
use App\Procedures\Deciding;
use App\Procedures\Figures;
use App\Procedures\ProcedureVersions;
use App\Procedures\TaskList;
use App\Procedures\TaskPart;
use Brenvic\Core\Design\ProcedurePart;
use Demo\Procedures;
use Demo\TrustDesign;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Facades\Queue;

require dirname(__DIR__).'/vendor/autoload.php';

$options = getopt('', ['cases:', 'open:', 'json']);
$cases = (int) ($options['cases'] ?? 100_000);
$open = min($cases, (int) ($options['open'] ?? 10_000));
$folder = sys_get_temp_dir().'/brenvic-bench-'.getmypid();
mkdir($folder);
touch("{$folder}/brenvic.sqlite");
foreach (['BRENVIC_DATA' => $folder, 'DB_DATABASE' => "{$folder}/brenvic.sqlite", 'QUEUE_CONNECTION' => 'database', 'CACHE_STORE' => 'array'] as $name => $value) {
    putenv("{$name}={$value}");
    $_ENV[$name] = $_SERVER[$name] = $value;
}
$app = require dirname(__DIR__).'/bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
register_shutdown_function(static fn () => File::deleteDirectory($folder));
$app->make(Kernel::class)->call('migrate', ['--force' => true]);
TrustDesign::install();
$app->forgetScopedInstances();
Procedures::install();
$told = static fn (string $line) => isset($options['json']) ? null : fwrite(STDERR, "{$line}\n");

/** Half of the times that something takes are at most so long, in milliseconds. */
$median = static function (callable $what, int $times = 15) use ($app): array {
    $took = [];
    for ($i = 0; $i < $times; $i++) {
        $app->forgetScopedInstances();
        $at = hrtime(true);
        $what($i);
        $took[] = (hrtime(true) - $at) / 1e6;
    }
    sort($took);

    return ['median_ms' => round($took[intdiv($times, 2)], 1), 'slowest_ms' => round($took[$times - 1], 1)];
};

$told("Filing {$cases} tenders…");
$library = DB::table('libraries')->where('code', 'works')->value('id');
$type = DB::table('document_types')->where('code', 'tender')->value('id');
$amount = DB::table('fields')->where('code', 'amount')->value('id');
$sha256 = DB::table('files')->value('sha256') ?? app(App\Files\FileStore::class)->takeContents('x')[0];
$clerk = User::query()->where('sign_in', 'clerk')->value('id');
DB::connection()->unsetEventDispatcher();
foreach (array_chunk(range(1, $cases), 2_000) as $ids) {
    DB::transaction(static function () use ($ids, $library, $type, $amount, $sha256, $clerk): void {
        DB::table('documents')->insert(array_map(static fn (int $id): array => [
            'id' => $id, 'ref' => App\Models\Document::refOf($id), 'library_id' => $library, 'document_type_id' => $type, 'title' => "Tender {$id}",
            'file_name' => "t{$id}.txt", 'file_kind' => 'text', 'sha256' => $sha256, 'bytes' => 1, 'state' => 'filed', 'text_state' => 'none',
            'created_by' => $clerk, 'filed_at' => now(), 'created_at' => now(), 'updated_at' => now(),
        ], $ids));
        DB::table('document_values')->insert(array_map(static fn (int $id): array => [
            'document_id' => $id, 'field_id' => $amount, 'position' => 0, 'value' => (string) (1_000 + $id % 90_000).'.00',
        ], $ids));
    });
}
$told('Making the cases…');
$version = app(ProcedureVersions::class)->present('tender');
$groups = DB::table('groups')->pluck('id', 'name');
$manager = User::query()->where('sign_in', 'manager')->firstOrFail();
$works = User::query()->where('sign_in', 'works')->firstOrFail();
$event = static fn (string $kind, array $detail): string => json_encode($detail, JSON_THROW_ON_ERROR);
foreach (array_chunk(range(1, $cases), 1_000) as $ids) {
    DB::transaction(static function () use ($ids, $cases, $open, $version, $groups, $manager, $works, $event): void {
        $rows = $events = $tasks = $audience = [];
        foreach ($ids as $id) {
            $isOpen = $id > $cases - $open;
            $isHeld = $isOpen && $id % 5 === 0;
            $due = now()->addDays($id % 20 - 1)->toDateString();
            $task = [
                'number' => 1, 'party' => 0, 'audience' => $isHeld ? ['groups' => [], 'people' => [$manager->id]] : ['groups' => ['Works office'], 'people' => []],
                'excluded' => [], 'holder' => $isHeld ? $manager->id : null, 'asked' => null, 'due' => $due, 'remind' => null, 'overdue' => false,
            ];
            $step = $isHeld ? 'manager' : 'check';
            $rows[] = [
                'id' => $id, 'procedure' => 'tender', 'procedure_version_id' => $version, 'document_id' => $id, 'length' => $isOpen ? 1 : 3, 'told' => $isOpen ? 1 : 3,
                'status' => $isOpen ? 'waiting' : 'ended', 'step' => $isOpen ? $step : 'returned', 'decision' => $isOpen ? null : 'return',
                'since' => now(), 'begun_at' => now()->subDays($id % 300), 'begun_by' => null, 'ended_at' => $isOpen ? null : now()->subDays($id % 80),
            ];
            $events[] = ['case_id' => $id, 'number' => 1, 'kind' => 'entered', 'user_id' => null, 'step' => $step, 'detail' => $event('entered', ['step' => $step, 'tasks' => [$task]]), 'at' => now()];
            if (! $isOpen) {
                $events[] = ['case_id' => $id, 'number' => 2, 'kind' => 'decided', 'user_id' => $works->id, 'step' => 'check', 'detail' => $event('decided', ['task' => 1, 'decision' => 'return', 'comment' => 'x', 'last' => true]), 'at' => now()];
                $events[] = ['case_id' => $id, 'number' => 3, 'kind' => 'ended', 'user_id' => null, 'step' => 'returned', 'detail' => $event('ended', ['step' => 'returned']), 'at' => now()];
            }
            $tasks[] = [
                'id' => $id, 'case_id' => $id, 'number' => 1, 'document_id' => $id, 'procedure' => 'tender', 'step' => $step, 'holder_id' => $isHeld ? $manager->id : null,
                'due' => $due, 'opened_at' => now()->subDays($id % 90), 'closed_at' => $isOpen ? null : now()->subDays($id % 80), 'decided_by' => $isOpen ? null : $works->id,
                'decision' => $isOpen ? null : 'return',
            ];
            $isOpen && ($audience[] = ['task_id' => $id, 'group_id' => $isHeld ? null : $groups['Works office'], 'user_id' => $isHeld ? $manager->id : null]);
        }
        foreach (['cases' => $rows, 'tasks' => $tasks, 'case_events' => $events, 'task_audience' => $audience] as $table => $all) {
            foreach (array_chunk($all, 500) as $some) {
                DB::table($table)->insert($some);
            }
        }
    });
}
$told('Indexing them…');
foreach (array_chunk(range(1, $cases), 2_000) as $ids) {
    $app->forgetScopedInstances();
    DB::transaction(static fn () => app(Indexer::class)->fill(new App\Index\SqliteStore(App\Index\IndexState::read()->live), $ids));
}
Queue::fake();
$figures = [
    'cases' => $cases,
    'open' => $open,
    'my_list' => $median(static fn () => app(TaskList::class)->page($manager->refresh(), TaskPart::Mine)),
    'list_of_a_group' => $median(static fn () => app(TaskList::class)->page(User::query()->findOrFail($works->id), TaskPart::Groups)),
    'counts_for_the_tab' => $median(static fn () => app(TaskList::class)->waiting(User::query()->findOrFail($works->id))),
    'figures_of_three_months' => $median(static fn () => app(Figures::class)->of(
        app(Catalog::class)->design()->one(ProcedurePart::class, 'tender') ?? throw new LogicException('tender'),
        User::query()->where('sign_in', 'clerk')->firstOrFail(),
        now()->subMonths(3)->toDateString(),
        now()->toDateString(),
    ), 5),
];
$waiting = Task::query()->whereNull('closed_at')->whereNull('holder_id')->orderBy('id')->limit(40)->pluck('id')->all();
$figures['decision'] = $median(static function (int $i) use ($waiting, $works): void {
    app(Deciding::class)->decide(Task::query()->with('case')->whereKey($waiting[$i])->firstOrFail(), $works, 'complete', 'As agreed.', [], null);
}, 30);
// Of all that is open, those that are due; each is looked after once.
$at = hrtime(true);
$checked = 0;
do {
    $app->forgetScopedInstances();
    $some = app(Deadlines::class)->check();
    $checked += $some;
} while ($some > 0);
$figures['deadlines'] = ['looked_after' => $checked, 'seconds' => round((hrtime(true) - $at) / 1e9, 2)];
$figures['deadlines_again'] = $median(static fn () => app(Deadlines::class)->check());
echo json_encode($figures, JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR), "\n";
