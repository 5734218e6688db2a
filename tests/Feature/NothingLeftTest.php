<?php

declare(strict_types=1);

use App\Destroying\Destroyer;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\Version;
use Demo\TrustDesign;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/** An office in files of its own, as a real one is: what is in the database is looked for in its file. */
function inFiles(Closure $does): void
{
    $folder = (string) config('brenvic.data');
    File::ensureDirectoryExists($folder);
    touch("{$folder}/brenvic.sqlite");
    config(['database.connections.onDisk' => [...config('database.connections.sqlite'), 'database' => "{$folder}/brenvic.sqlite"]]);
    config(['database.default' => 'onDisk']);
    try {
        Artisan::call('migrate', ['--force' => true]);
        TrustDesign::install();
        app()->forgetScopedInstances();
        $does($folder);
    } finally {
        DB::purge('onDisk');
        config(['database.default' => 'sqlite']);
        app()->forgetScopedInstances();
    }
}

/** @return list<string> files under a folder that have a word in them, whatever its case */
function filesWith(string $folder, string $word): array
{
    $found = [];
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS)) as $file) {
        $bytes = $file->isFile() ? (string) file_get_contents($file->getPathname()) : '';
        // What is in a ZIP is looked at unpacked.
        foreach (str_starts_with($bytes, 'PK') ? unpackedZip($file->getPathname()) : [] as $name => $inside) {
            $bytes .= "{$name} {$inside}";
        }
        if (stripos($bytes, $word) !== false || stripos($file->getPathname(), $word) !== false) {
            $found[] = substr($file->getPathname(), strlen($folder) + 1);
        }
    }
    sort($found);

    return $found;
}

it('leaves no word of what was destroyed anywhere in the data folder', function (int $seed) {
    inFiles(function (string $folder) use ($seed): void {
        mt_srand($seed);
        $marker = 'qx'.substr(str_shuffle('bcdfghjklmnpqrstvwz'), 0, 9);
        typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
        $this->as('manager')->putJson('/api/oversight/stub', ['title' => false, 'fields' => ['document_date']])->assertOk();
        $near = stoppageOf('2001', ['received_from' => ['Another']], str_repeat('The gates are closed for works. ', 30));
        $ref = $this->filed(
            "Notice of {$marker}. {$marker}ly was the sill. ".str_repeat("The gates of {$marker} are closed for works. ", 30),
            "{$marker}.txt",
            'stoppage_notice',
            ['document_date' => ['2001'], 'waterway' => ['tarn-sea'], 'received_from' => ["Orla {$marker}"]],
        );
        $document = Document::query()->where('ref', $ref)->firstOrFail();
        // It has a life: values changed one by one and together, a comment, a note, a version, a copy with redactions, a delivery.
        $this->as('clerk')->putJson("/api/documents/{$ref}", [
            'type' => 'stoppage_notice',
            'values' => ['document_date' => ['2002'], 'waterway' => ['tarn-sea'], 'received_from' => ["{$marker} again"]],
            'lock_version' => $document->lock_version,
        ])->assertOk();
        $this->postJson("/api/documents/{$ref}/comments", ['text' => "What of {$marker}?"])->assertSuccessful();
        $this->postJson("/api/documents/{$ref}/annotations", [
            'page' => 1,
            'kind' => 'note',
            'start' => 0,
            'length' => 6,
            'text' => "Ask {$marker}",
        ])->assertSuccessful();
        $this->postJson("/api/documents/{$ref}/check-out", ['note' => "For {$marker}"])->assertSuccessful();
        $this->post("/api/documents/{$ref}/check-in", [
            'file' => UploadedFile::fake()->createWithContent("{$marker}-2.txt", "Second notice of {$marker}, {$marker}ish."),
            'note' => "By {$marker}",
        ], ['Accept' => 'application/json'])->assertSuccessful();
        $this->as('librarian')->postJson("/api/documents/{$ref}/redactions", [
            'version' => 2,
            'marks' => [['page' => 1, 'start' => 0, 'length' => 6]],
            'reason' => 'personal',
        ])->assertOk();
        $list = $this->as('librarian')->postJson('/api/lists', ['name' => 'Away'])->json('id');
        $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref, $near]])->assertOk();
        $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'bag'])->assertCreated();
        $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'csv'])->assertCreated();
        $this->deleteJson("/api/lists/{$list}")->assertNoContent();
        expect(Version::query()->where('document_id', $document->id)->count())->toBeGreaterThan(0)
            ->and(Delivery::query()->where('state', Delivery::DONE)->count())->toBe(2)
            ->and(count(filesWith($folder, $marker)))->toBeGreaterThan(3);

        $id = $this->as('librarian')
            ->postJson('/api/oversight/disposals', ['name' => 'Old', 'action' => 'destroy', 'until' => now()->toDateString()])
            ->assertCreated()
            ->json('id');
        $act = fn (string $act, string $by, array $more = []) => $this->as($by)->postJson("/api/oversight/disposals/{$id}/{$act}", [
            ...$more,
            'lock_version' => $this->getJson("/api/oversight/disposals/{$id}")->json('lock_version'),
        ])->assertOk();
        $act('review', 'librarian', ['decision' => 'release', 'documents' => [$ref]]);
        $act('review', 'librarian', ['decision' => 'keep', 'reason' => 'Still in use']);
        $act('submit', 'librarian');
        $act('approve', 'manager');
        expect($this->as('librarian')->getJson("/api/oversight/disposals/{$id}")->json('counts.done'))->toBe(1);
        DB::table('recent_searches')->delete();
        Destroyer::emptyJournal();

        expect(filesWith($folder, $marker))->toBe([])
            ->and(foundBy('retention == destroyed'))->toBe([$ref])
            ->and($this->search(['words' => $marker])->json('total'))->toBe(0)
            ->and($this->search(['words' => 'gates'])->json('total'))->toBe(1);
        $this->artisan('brenvic:history:verify')->assertSuccessful();
        $this->artisan('brenvic:check')->assertSuccessful();
    });
})->with([1, 2, 3]);
