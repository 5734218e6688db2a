<?php

declare(strict_types=1);

use App\Files\FileStore;
use App\Models\Document;
use Demo\FileMaker;

beforeEach(function () {
    $folder = sys_get_temp_dir().'/brenvic-templates-'.getmypid();
    @mkdir($folder);
    FileMaker::word("{$folder}/notice.docx", ['Stoppage at {waterway}', 'Dated {document_date}, from {received_from}. {nothing}']);
    $this->notice = $this->filed((string) file_get_contents("{$folder}/notice.docx"), 'notice.docx', 'stoppage_notice', [
        'waterway' => ['tarn-sea'], 'document_date' => ['2020'],
    ]);
    $this->letter = $this->filed("# Weed at {waterway}\n\n{silt_depth} on {document_date}\n", 'letter.md', 'weed_silt_report', [
        'waterway' => ['tarn-sea'], 'document_date' => ['2020'],
    ]);
    Illuminate\Support\Facades\File::deleteDirectory($folder);
    foreach ([$this->notice, $this->letter] as $ref) {
        $this->as('librarian')->putJson("/api/documents/{$ref}/template")->assertOk();
    }
});

it('fills one sheet into several templates, each a document of its own type, and leaves the templates as they are', function () {
    $before = Document::query()->whereIn('ref', [$this->notice, $this->letter])->pluck('sha256', 'ref')->all();
    $templates = $this->as('clerk')->getJson('/api/intake/templates')->assertOk()->json('templates');
    expect(array_column($templates, 'ref'))->toEqualCanonicalizing([$this->notice, $this->letter])
        ->and(array_unique(array_column($templates, 'filled')))->toBe([true]);
    $values = ['waterway' => ['Summit pound'], 'document_date' => ['3 May 2024'], 'received_from' => ['Ash & Son'], 'silt_depth' => ['0.4']];
    $answer = $this->postJson('/api/intake/templates', ['templates' => [$this->notice, $this->letter], 'values' => $values])->assertCreated()->json();
    expect($answer['made'])->toHaveCount(2)->and(array_column($answer['documents'], 'lacks'))->toBe([[], []]);
    [$notice, $letter] = array_map(static fn (string $ref): Document => Document::query()->where('ref', $ref)->firstOrFail(), $answer['made']);
    // Its words are read out of the file again, as of any other.
    $page = $this->getJson("/api/documents/{$notice->ref}/pages/1")->json('pieces.0.0');
    expect($page)->toContain('Stoppage at Summit pound', 'Dated 3 May 2024, from Ash & Son. {nothing}');
    expect(file_get_contents(app(FileStore::class)->path($letter->sha256)))->toBe("# Weed at Summit pound\n\n0.4\u{A0}m on 3 May 2024\n");
    expect($notice->type?->code)->toBe('stoppage_notice')->and($letter->type?->code)->toBe('weed_silt_report');
    expect(Document::query()->whereIn('ref', array_keys($before))->pluck('sha256', 'ref')->all())->toBe($before);
    $this->postJson('/api/intake/file-complete', ['documents' => $answer['made']])->assertOk()->assertJsonPath('filed', 2);
});

it('makes none when one of them is refused, and gives no template away', function () {
    $values = ['waterway' => ['Summit pound'], 'document_date' => ['31 Feb 2024']];
    $this->as('clerk')->postJson('/api/intake/templates', ['templates' => [$this->notice], 'values' => $values])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.document_date', fn (string $m): bool => $m !== '');
    $this->postJson('/api/intake/templates', ['templates' => [$this->notice, 'D-99999-X'], 'values' => []])->assertUnprocessable();
    $this->postJson('/api/intake/templates', ['templates' => []])->assertUnprocessable();
    expect($this->getJson('/api/intake')->json('documents'))->toBe([]);
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->getJson('/api/intake/templates')->assertForbidden();
        $this->postJson('/api/intake/templates', ['templates' => [$this->notice], 'values' => []])->assertForbidden();
    }
});
