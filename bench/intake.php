<?php

declare(strict_types=1);

/*
 * Intake: ./brenvic bench intake [--docs=500] [--json]
 *
 * PDFs of two pages are brought in together; their list is told, also with ten times as many; they are read, by one process;
 * scanned pages are read by OCR and looked at before page work; a stack is made into documents.
 */

use App\Capture\TextReading;
use App\Files\FilePages;
use App\Files\PagePdf;
use App\Http\Resources\WaitingResource;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Intake\LiftFrom;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Library;
use App\Models\User;
use App\Sorting\PageSigns;
use App\Sorting\SortedDocument;
use App\Sorting\SortedPage;
use App\Sorting\Sorting;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Auth;

require __DIR__.'/../vendor/autoload.php';

$docs = 500;
$json = false;
foreach (array_slice($argv, 1) as $argument) {
    match (true) {
        preg_match('/^--docs=(\d+)$/', $argument, $m) === 1 => ($docs = max(20, (int) $m[1])),
        $argument === '--json' => ($json = true),
        $argument === 'intake' => null,
        default => exit("bench does not know {$argument}.\n"),
    };
}
$data = __DIR__.'/data/intake';
putenv("BRENVIC_DATA={$data}");
$_ENV['BRENVIC_DATA'] = $_SERVER['BRENVIC_DATA'] = $data;
putenv("DB_DATABASE={$data}/brenvic.sqlite");
$_ENV['DB_DATABASE'] = $_SERVER['DB_DATABASE'] = "{$data}/brenvic.sqlite";
putenv('QUEUE_CONNECTION=null');
$_ENV['QUEUE_CONNECTION'] = $_SERVER['QUEUE_CONNECTION'] = 'null';
(new Illuminate\Filesystem\Filesystem())->deleteDirectory($data);
mkdir($data, 0775, true);
touch("{$data}/brenvic.sqlite");
$application = require __DIR__.'/../bootstrap/app.php';
$application->make(Kernel::class)->bootstrap();
Artisan::call('migrate', ['--force' => true]);
Demo\TrustDesign::install();
$user = User::query()->where('sign_in', 'clerk')->firstOrFail();
Auth::login($user);
$library = Library::query()->where('code', 'waterways')->firstOrFail();
$type = DocumentType::query()->where('code', 'stoppage_notice')->firstOrFail();

$tell = static function (string $case, array $times, int $of, string $unit) use ($json): void {
    sort($times);
    $median = 1000 * $times[intdiv(count($times), 2)];
    $p95 = 1000 * $times[(int) floor(0.95 * (count($times) - 1))];
    $figures = ['median_ms' => round($median, 2), 'p95_ms' => round($p95, 2)];
    echo $json
        ? json_encode(['suite' => 'intake', 'case' => $case, 'engine' => 'brenvic', 'docs' => $of, ...$figures])."\n"
        : sprintf("%-58s %9.2f ms, p95 %9.2f   %s\n", $case, $median, $p95, $unit);
};
$timed = static function (Closure $work): float {
    $begin = hrtime(true);
    $work();

    return (hrtime(true) - $begin) / 1e9;
};

$text = static function (int $i) use ($data): string {
    $pdf = new PagePdf();
    for ($page = 1; $page <= 2; $page++) {
        $pdf->AddPage();
        $pdf->setFont('helvetica', '', 11);
        for ($line = 0; $line < 36; $line++) {
            $words = "Line {$line} of page {$page} of letter {$i}: dated 3 May 2024, the Sea lock pound keeps its depth over most of it.";
            $pdf->Text(60, 60 + 20 * $line, $words);
        }
    }
    file_put_contents("{$data}/letter.pdf", $pdf->Output('', 'S'));

    return "{$data}/letter.pdf";
};
$arrivals = app(Arrivals::class);
$times = [];
for ($i = 0; $i < $docs; $i++) {
    $file = $text($i);
    $times[] = $timed(static fn () => $arrivals->receive($file, "letter {$i}.pdf", $library, $user));
}
$tell('a PDF comes in', $times, $docs, sprintf('%.0f a second', $docs / array_sum($times)));
$list = static fn (?string $stamp = null): array => app(WaitingResource::class)->of($user, $stamp);
$tell("the list of {$docs}", array_map(static fn (): float => $timed(static fn () => $list()), range(1, 9)), $docs, '');
$stamp = $list()['stamp'];
$tell('the same list asked for again', array_map(static fn (): float => $timed(static fn () => $list($stamp)), range(1, 25)), $docs, '');

$ids = Document::query()->orderBy('id')->limit(60)->pluck('id');
$times = [];
foreach ($ids as $id) {
    $times[] = $timed(static fn () => app(TextReading::class)->read((int) $id));
}
$tell('a PDF of two pages is read', $times, count($times), sprintf('%.0f a minute', 60 * count($times) / array_sum($times)));
$one = Document::query()->whereKey($ids[0])->firstOrFail();
$field = app(App\Catalog\Catalog::class)->fields()['document_date'];
$tell('what its pages say for a date', array_map(static fn (): float => $timed(static fn () => LiftFrom::places($one, $field)), range(1, 25)), 1, '');
$filing = app(Filing::class);
$times = [];
foreach (array_slice($ids->all(), 0, 40) as $id) {
    $document = Document::query()->whereKey($id)->firstOrFail();
    $times[] = $timed(static fn () => $filing->file([$document], $type, ['waterway' => ['Sea lock pound'], 'document_date' => ['3 May 2024']], $user));
}
$tell('a document is filed', $times, count($times), '');

// A stack of scanned pages: drawn from the letters, so that there is something to read.
exec('pdftoppm -r 150 -gray -jpeg '.escapeshellarg("{$data}/letter.pdf")." {$data}/page");
$stack = new PagePdf();
for ($i = 0; $i < 10; $i++) {
    foreach (glob("{$data}/page-*.jpg") ?: [] as $page) {
        FilePages::add($stack, $page, '');
    }
}
file_put_contents("{$data}/stack.pdf", $stack->Output('', 'S'));
$scan = $arrivals->receive("{$data}/stack.pdf", 'stack.pdf', $library, $user);
$scan->update(['page_count' => 20]);
$pages = static fn (float $seconds): array => array_fill(0, 20, $seconds / 20);
$tell('a scanned page is looked at', $pages($timed(static fn () => app(PageSigns::class)->look($scan->sha256, 20))), 20, '');
$tell('a scanned page is read by OCR', $pages($timed(static fn () => app(TextReading::class)->read($scan->id))), 20, 'by one process');
$wanted = [];
for ($i = 1; $i <= 20; $i += 2) {
    $wanted[] = new SortedDocument([new SortedPage($scan->ref, $i), new SortedPage($scan->ref, $i + 1, 0, true)]);
}
$tell('a stack of 20 pages becomes 10 documents', [$timed(static fn () => app(Sorting::class)->sort($user, [$scan->ref], $wanted))], 20, '');

// Ten times as many, as rows only: the list does not open files.
$many = 10 * $docs - Document::query()->where('state', Document::WAITING)->count();
$row = Document::query()->where('state', Document::WAITING)->firstOrFail()->getAttributes();
unset($row['id'], $row['ref']);
for ($i = 0; $i < $many; $i++) {
    Document::query()->create([...$row, 'file_name' => "letter {$i}.pdf"]);
}
$tell('the list of '.(10 * $docs), array_map(static fn (): float => $timed(static fn () => $list()), range(1, 5)), 10 * $docs, '');
$stamp = $list()['stamp'];
$tell('the same list asked for again', array_map(static fn (): float => $timed(static fn () => $list($stamp)), range(1, 15)), 10 * $docs, '');
(new Illuminate\Filesystem\Filesystem())->deleteDirectory($data);
