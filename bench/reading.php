<?php

declare(strict_types=1);

/*
 * What is proposed for documents that arrive: ./brenvic bench reading [--each=12] [--docs=0] [--rules] [--fields]
 *
 * The demo is made; of every type so many documents are kept out of learning, and their sheets are proposed and held against what they
 * have: right of those proposed, proposed of those there, by type and by field. With --docs the demo’s documents are copied until there
 * are so many, and the time of a proposal is taken with all of them. Without --rules the reading rules of the demo are left out;
 * --fields tells what was wrong and what was missing.
 */

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Models\Document;
use App\Models\User;
use App\Reading\Proposals;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Reading\Outcome;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;

require __DIR__.'/../vendor/autoload.php';

$each = 12;
$docs = 0;
$withRules = false;
$byField = false;
foreach (array_slice($argv, 1) as $argument) {
    match (true) {
        preg_match('/^--each=(\d+)$/', $argument, $m) === 1 => ($each = max(1, (int) $m[1])),
        preg_match('/^--docs=(\d+)$/', $argument, $m) === 1 => ($docs = (int) $m[1]),
        $argument === '--rules' => ($withRules = true),
        $argument === '--fields' => ($byField = true),
        $argument === 'reading' => null,
        default => exit("bench does not know {$argument}.\n"),
    };
}
$data = __DIR__.'/data/reading';
foreach (['BRENVIC_DATA' => $data, 'DB_DATABASE' => "{$data}/brenvic.sqlite", 'QUEUE_CONNECTION' => 'database'] as $name => $value) {
    putenv("{$name}={$value}");
    $_ENV[$name] = $_SERVER[$name] = $value;
}
ini_set('memory_limit', '2G');
$isNew = ! is_file("{$data}/made");
if ($isNew) {
    (new Illuminate\Filesystem\Filesystem())->deleteDirectory($data);
    mkdir($data, 0775, true);
    touch("{$data}/brenvic.sqlite");
}
$application = require __DIR__.'/../bootstrap/app.php';
$application->make(Kernel::class)->bootstrap();
if ($isNew) {
    Artisan::call('migrate', ['--force' => true]);
    Artisan::call('brenvic:demo');
    // Its texts are read by two at once, as a server does.
    $worker = ['php', '-d', 'memory_limit=1G', '-d', 'ffi.enable=true', 'artisan', 'queue:work', '--stop-when-empty', '--quiet'];
    $queues = '--queue='.implode(',', array_column(App\Jobs\Urgency::cases(), 'value'));
    $workers = array_map(static fn (): Process => new Process([...$worker, $queues], dirname(__DIR__), timeout: null), [1, 2]);
    array_map(static fn (Process $of) => $of->start(), $workers);
    array_map(static fn (Process $of) => $of->wait(), $workers);
    touch("{$data}/made");
}
$user = User::query()->where('sign_in', 'librarian')->firstOrFail();
Auth::login($user);
if (! $withRules) {
    DB::table('design_parts')->where('kind', 'readings')->delete();
}
$catalog = app(Catalog::class);
$sight = app(Rights::class)->sight($user);

if ($docs > 0) {
    // The same again and again, under other numbers; rights are those of all.
    $step = (int) DB::table('documents')->max('id');
    $columns = static fn (string $table): array => array_column(DB::select("PRAGMA table_info({$table})"), 'name');
    for ($at = (int) ceil(DB::table('documents')->count() / $step) * $step; DB::table('documents')->count() < $docs; $at += $step) {
        foreach (['documents' => 'id', 'document_values' => 'document_id', 'pages' => 'document_id', 'layout_marks' => 'document_id'] as $table => $key) {
            $into = implode(', ', array_map(static fn (string $name): string => "\"{$name}\"", array_diff($columns($table), ['parent_id'])));
            $from = str_replace(["\"{$key}\"", '"ref"'], ["\"{$key}\" + {$at}", "'X' || (id + {$at})"], $into);
            DB::statement("INSERT INTO {$table} ({$into}) SELECT {$from} FROM {$table} WHERE \"{$key}\" <= {$step}".($table === 'pages' ? ' AND number <= 2' : ''));
        }
    }
    $sight = DocumentSet::of(DB::table('documents')->orderBy('id')->pluck('id')->map(intval(...))->all());
    printf("%s documents\n", number_format($sight->count()));
}

// Some of each type, spread over all of them.
$out = [];
foreach ($catalog->types() as $type) {
    $ids = array_values(array_filter(
        DB::table('documents')
            ->where('document_type_id', $type->id)
            ->where('id', '<=', $step ?? PHP_INT_MAX)
            ->where('text_state', 'read')
            ->whereNull('parent_id')
            ->orderBy('id')
            ->pluck('id')
            ->all(),
        $sight->has(...),
    ));
    for ($i = 0; $i < $each && count($ids) > 3 * $each; $i++) {
        $out[] = (int) $ids[intdiv((2 * $i + 1) * count($ids), 2 * $each)];
    }
}
$among = $sight->minus(DocumentSet::of($out));
$proposals = app(Proposals::class);
/** @var array<string, array{there: int, made: int, right: int}> $by */
$by = [];
$wrong = $missing = [];
$count = static function (string $name, bool $isThere, bool $isMade, bool $isRight) use (&$by): void {
    $by[$name] ??= ['there' => 0, 'made' => 0, 'right' => 0];
    $by[$name]['there'] += (int) $isThere;
    $by[$name]['made'] += (int) $isMade;
    $by[$name]['right'] += (int) $isRight;
};
$times = [];
foreach (Document::query()->findMany($out) as $document) {
    $code = (string) $catalog->types()->get((int) $document->document_type_id)?->code;
    $present = OwnValues::of([$document->id])[$document->id] ?? [];
    // As it would arrive: nothing of its sheet is there.
    DB::beginTransaction();
    DB::table('document_values')->where('document_id', $document->id)->delete();
    $since = hrtime(true);
    $sheet = $proposals->of($document, $user, null, $among);
    $times[] = (hrtime(true) - $since) / 1e6;
    $isRight = $sheet->type?->code === $code;
    $count('type', true, $sheet->type !== null, $isRight);
    $count("type of {$code}", true, $sheet->type !== null, $isRight);
    if (! $isRight) {
        $wrong[] = "{$document->title}: type ".($sheet->type->code ?? 'none');
        // Somebody chooses the right one.
        $sheet = $proposals->of($document, $user, $code, $among);
    }
    DB::rollBack();
    $made = [];
    foreach ($sheet->fields as $of) {
        $made[$of->field->code] = $of;
    }
    foreach ($catalog->fields() as $field) {
        $values = $present[$field->code] ?? [];
        $of = $made[$field->code] ?? null;
        if ($values === [] && $of === null) {
            continue;
        }
        $outcome = Outcome::of($of?->normals() ?? [], $values);
        // What people did not give is neither right nor wrong.
        if ($outcome === Outcome::New) {
            continue;
        }
        $isRight = $outcome === Outcome::Agrees;
        foreach (['values', "values of {$code}", "field {$field->code}", ...$of === null ? [] : ["by {$of->rule}"]] as $name) {
            $count($name, true, $of !== null, $isRight);
        }
        if ($of === null) {
            $missing["{$code}.{$field->code}"] = ($missing["{$code}.{$field->code}"] ?? 0) + 1;
        } elseif (! $isRight) {
            $wrong[] = "{$document->title}: {$field->code} is ".implode('/', $values).', proposed '.implode('/', $of->normals())." ({$of->by})";
        }
    }
}
ksort($by);
printf("%-40s %7s %9s %9s\n", '', 'there', 'proposed', 'right');
foreach ($by as $name => $of) {
    printf("%-40s %7d %8.1f%% %8.1f%%\n", $name, $of['there'], 100 * $of['made'] / max(1, $of['there']), 100 * $of['right'] / max(1, $of['made']));
}
sort($times);
printf("a sheet is proposed in %.0f ms (median), %.0f ms (95 of 100)\n", $times[intdiv(count($times), 2)], $times[(int) (count($times) * 0.95)]);
if ($byField) {
    echo implode("\n", $wrong), "\n";
    arsort($missing);
    foreach ($missing as $name => $times) {
        printf("%4d times nothing for %s\n", $times, $name);
    }
}
