<?php

declare(strict_types=1);

/*
 * An office in a data folder of its own, with tenders that somebody has just decided on: what follows from the decisions is left to
 * be done by a worker.
 */

use App\Catalog\Catalog;
use App\Files\FileStore;
use App\Files\PageStore;
use App\Intake\Completed;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Library;
use App\Models\User;
use App\Procedures\Cases;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Record\CaseState;
use Demo\Procedures;
use Demo\TrustDesign;
use Illuminate\Contracts\Console\Kernel;

require dirname(__DIR__).'/vendor/autoload.php';
$app = require dirname(__DIR__).'/bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
$app->make(Kernel::class)->call('migrate', ['--force' => true]);
TrustDesign::install();
app()->forgetScopedInstances();
Procedures::install();
$clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
$manager = User::query()->where('sign_in', 'manager')->firstOrFail();
$works = User::query()->where('sign_in', 'works')->firstOrFail();
$type = DocumentType::query()->where('code', 'tender')->firstOrFail();
$library = Library::query()->where('code', 'works')->firstOrFail();
$part = app(Catalog::class)->design()->one(ProcedurePart::class, 'tender') ?? throw new LogicException('tender');
for ($i = 1; $i <= (int) ($argv[1] ?? 6); $i++) {
    [$sha256, $bytes] = app(FileStore::class)->takeContents("tender {$i}");
    $document = Document::query()->create([
        'library_id' => $library->id,
        'title' => "Tender {$i}",
        'file_name' => "tender-{$i}.txt",
        'file_kind' => 'text',
        'sha256' => $sha256,
        'bytes' => $bytes,
        'state' => Document::WAITING,
        'text_state' => Document::TEXT_READ,
        'page_count' => 1,
        'created_by' => $clerk->id,
    ]);
    app(PageStore::class)->replace($document->id, [new TextPage(595, 842, 'Tender')]);
    $values = ['contractor' => ["Holm {$i}"], 'amount' => ['48000']];
    app(Filing::class)->fileAll([new Completed($document, $type, app(Filing::class)->checked($type, $values, null, $clerk), null)], $clerk);
    $case = app(Cases::class)->begin($part, $document->refresh(), $clerk);
    foreach ([[$works, 'complete'], [$manager, 'accept']] as [$by, $decision]) {
        app(Cases::class)->act(
            $case,
            static fn (Machine $machine, CaseState $state): array => $machine->decide($state, (int) array_key_first($state->tasks), $by->id, $decision, ''),
        );
    }
}
