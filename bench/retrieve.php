<?php

declare(strict_types=1);

/*
 * Retrieving: ./brenvic bench retrieve [--docs=1000] [--json]
 *
 * A pull list of PDFs of three pages is delivered as a bag, as files in folders and as one PDF; a PDF of 300 pages is
 * redacted by words that stand on every third page, and annotated. Each case runs in a process of its own, so that its
 * peak of memory is its own.
 */

use App\Annotations\AnnotatedPdf;
use App\Files\FileStore;
use App\Files\PagePdf;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\Library;
use App\Models\PullList;
use App\Models\User;
use App\Redaction\Redactions;
use App\Redaction\Redactor;
use App\Retrieve\Deliver;
use App\Retrieve\DeliveryMaker;
use App\Retrieve\PullLists;
use App\Support\ExternalProgram;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Pages\AnnotationKind;
use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Overlay;
use Brenvic\Core\Redaction\Sought;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\File;

require __DIR__.'/../vendor/autoload.php';

$docs = 1_000;
$json = false;
$case = '';
foreach (array_slice($argv, 1) as $argument) {
    match (true) {
        preg_match('/^--docs=(\d+)$/', $argument, $m) === 1 => ($docs = max(10, (int) $m[1])),
        preg_match('/^--case=(\w+)$/', $argument, $m) === 1 => ($case = $m[1]),
        $argument === '--json' => ($json = true),
        $argument === 'retrieve' => null,
        default => exit("bench does not know {$argument}.\n"),
    };
}
$data = __DIR__.'/data/retrieve';
putenv("BRENVIC_DATA={$data}");
$_ENV['BRENVIC_DATA'] = $_SERVER['BRENVIC_DATA'] = $data;
putenv("DB_DATABASE={$data}/brenvic.sqlite");
$_ENV['DB_DATABASE'] = $_SERVER['DB_DATABASE'] = "{$data}/brenvic.sqlite";
putenv('QUEUE_CONNECTION=null');
$_ENV['QUEUE_CONNECTION'] = $_SERVER['QUEUE_CONNECTION'] = 'null';
if ($case === '') {
    (new Illuminate\Filesystem\Filesystem())->deleteDirectory($data);
    mkdir($data, 0775, true);
    touch("{$data}/brenvic.sqlite");
}
$application = require __DIR__.'/../bootstrap/app.php';
$application->make(Kernel::class)->bootstrap();

$pdf = static function (int $pages, string $name): string {
    $pdf = new PagePdf();
    for ($page = 1; $page <= $pages; $page++) {
        $pdf->AddPage();
        $pdf->setFont('helvetica', '', 11);
        for ($line = 0; $line < 30; $line++) {
            $pdf->Text(
                60,
                60 + 22 * $line,
                $line === 7 && $page % 3 === 0
                    ? "The gate was inspected by {$name} and found sound."
                    : "Line {$line} of page {$page}: the channel keeps its depth over most of the length.",
            );
        }
    }

    return $pdf->Output('', 'S');
};

if ($case === '') {
    Artisan::call('migrate', ['--force' => true]);
    Demo\TrustDesign::install();
    $by = User::query()->where('sign_in', 'librarian')->firstOrFail();
    $library = Library::query()->where('code', 'waterways')->firstOrFail();
    $files = app(FileStore::class);
    $pages = app(App\Files\PageStore::class);
    $extractor = app(App\Capture\Extractor::class);
    fwrite(STDERR, "  making {$docs} documents\n");
    $ids = [];
    for ($i = 0; $i < $docs; $i++) {
        [$sha256, $bytes] = $files->takeContents($pdf(3, "Inspector {$i}"));
        $ids[] = Document::query()->create([
            'library_id' => $library->id,
            'title' => "Survey {$i}",
            'file_name' => "survey-{$i}.pdf",
            'file_kind' => 'pdf',
            'sha256' => $sha256,
            'bytes' => $bytes,
            'state' => Document::FILED,
            'filed_at' => now(),
            'text_state' => Document::TEXT_READ,
            'page_count' => 3,
            'created_by' => $by->id,
        ])->id;
    }
    [$sha256, $bytes] = $files->takeContents($pdf(300, 'Osric Vane'));
    $long = Document::query()->create([
        'library_id' => $library->id,
        'title' => 'The long report',
        'file_name' => 'long.pdf',
        'file_kind' => 'pdf',
        'sha256' => $sha256,
        'bytes' => $bytes,
        'state' => Document::FILED,
        'filed_at' => now(),
        'text_state' => Document::TEXT_READ,
        'page_count' => 300,
        'created_by' => $by->id,
    ]);
    $pages->replace($long->id, $extractor->extract($sha256, FileKind::Pdf)->pages);
    app(App\Index\Indexer::class)->update([...$ids, $long->id]);
    $list = PullList::query()->create(['user_id' => $by->id, 'name' => 'All of them', 'note' => '']);
    app(PullLists::class)->add($by, $list, $ids);
    $redactions = app(Redactions::class);
    $places = $redactions->places($long, array_filter([Sought::words('Osric Vane')]));
    $redactions->add($long, $by, $places, 'personal', 1);
    printf(
        "\nRetrieving, %s documents\n%-52s %10s %14s %14s %14s %12s\n",
        number_format($docs),
        '',
        'seconds',
        'PHP memory',
        'process',
        'programs',
        'result',
    );
    foreach (['bag', 'zip', 'pdf', 'redact', 'annotate'] as $name) {
        passthru(
            escapeshellarg(PHP_BINARY).
                ' -d memory_limit=1G '.
                escapeshellarg(__FILE__).
                " retrieve --docs={$docs} --case={$name}".
                ($json ? ' --json' : ''),
        );
    }
    exit();
}

$long = Document::query()->where('file_name', 'long.pdf')->firstOrFail();
$deliver = static function (string $format): string {
    $by = User::query()->where('sign_in', 'librarian')->firstOrFail();
    $delivery = Delivery::query()->create([
        'pull_list_id' => PullList::query()->value('id'),
        'user_id' => $by->id,
        'name' => 'All of them',
        'format' => $format,
        'settings' => ['form' => 'plain'],
    ]);
    (new Deliver($delivery->id))->handle(app(DeliveryMaker::class));
    $delivery->refresh();
    $delivery->state === Delivery::DONE || throw new RuntimeException("{$format}: {$delivery->message}");

    return number_format($delivery->bytes / 1_048_576, 1).' MB';
};
$cases = [
    'bag' => ["{$docs} documents to a bag", static fn (): string => $deliver('bag')],
    'zip' => ["{$docs} documents to files in folders", static fn (): string => $deliver('zip')],
    'pdf' => ["{$docs} documents to one PDF", static fn (): string => $deliver('pdf')],
    'redact' => [
        '300 pages redacted by words on every third',
        static function () use ($long): string {
            app(Redactor::class)->make($long);
            $copy = app(Redactions::class)->copy($long);
            $copy?->sha256 !== null || throw new RuntimeException((string) $copy?->fault);

            return number_format($copy->bytes / 1_048_576, 1).' MB';
        },
    ],
    'annotate' => [
        '300 pages with a highlight on each',
        static function () use ($long): string {
            $folder = ExternalProgram::folder();
            $overlays = array_map(
                static fn (): array => [new Overlay(AnnotationKind::Highlight, [new Box(60, 60, 200, 72)], text: 'Look', author: 'Bench')],
                array_fill(1, 300, null),
            );
            $made = AnnotatedPdf::write(app(FileStore::class)->path($long->sha256), $overlays, $folder);
            $bytes = (int) filesize($made);
            File::deleteDirectory($folder);

            return number_format($bytes / 1_048_576, 1).' MB';
        },
    ],
];
[$name, $work] = $cases[$case];
memory_reset_peak_usage();
$since = hrtime(true);
$result = $work();
$seconds = (hrtime(true) - $since) / 1e9;
// What libraries in C took counts too.
$process = preg_match('/^VmHWM:\s+(\d+)/m', (string) @file_get_contents('/proc/self/status'), $m) === 1 ? intdiv((int) $m[1], 1024) : 0;
// And what the programs took that render and join, the largest of them.
$programs = intdiv((int) (getrusage(1) ?: ['ru_maxrss' => 0])['ru_maxrss'], 1024);
$json
    ? print json_encode([
        'suite' => 'retrieve',
        'case' => $name,
        'engine' => 'Brenvic',
        'docs' => $docs,
        'median_ms' => round($seconds * 1000),
        'p95_ms' => round($seconds * 1000),
        'peak_mb' => round(memory_get_peak_usage() / 1_048_576),
        'process_mb' => $process,
        'programs_mb' => $programs,
    ])."\n"
    : printf(
        "%-52s %10.2f %11d MB %11d MB %11d MB %12s\n",
        $name,
        $seconds,
        memory_get_peak_usage() / 1_048_576,
        $process,
        $programs,
        $result,
    );
