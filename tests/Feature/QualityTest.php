<?php

declare(strict_types=1);

use Illuminate\Support\Facades\DB;

/**
 * What the report finds, by what it says.
 *
 * @return array<string, array<string, mixed>>
 */
function findings(string $query = '', string $by = 'manager'): array
{
    $found = [];
    foreach (test()->as($by)->getJson("/api/oversight/reports/quality{$query}")->assertOk()->json('tables.0.rows') as $row) {
        [$group, $words, $documents] = $row['cells'];
        $found[$words] = ['group' => $group, 'documents' => $documents, 'cql' => $row['search']['criteria'][0]['cql']];
    }

    return $found;
}

it('counts what is not as it should be, each number a search that finds just these documents', function () {
    $whole = stoppageOf('2001');
    $future = stoppageOf('2090');
    $old = stoppageOf('0987');
    $without = stoppageOf('2002');
    $plain = $this->upload('A text about nothing.', 'plain_paper.txt')->json('ref');
    $this->as('clerk')->postJson('/api/intake/file', ['documents' => [$plain], 'type' => 'photograph', 'values' => ['document_date' => ['1999']]]);
    $ids = DB::table('documents')->pluck('id', 'ref');
    // Given before the field became required, and a term that has gone.
    DB::table('document_values')
        ->where('document_id', $ids[$without])
        ->whereIn('field_id', DB::table('fields')->where('code', 'waterway')->select('id'))
        ->delete();
    DB::table('document_values')
        ->where('document_id', $ids[$old])
        ->whereIn('field_id', DB::table('fields')->where('code', 'waterway')->select('id'))
        ->update(['value' => 'the-old-cut']);
    app(App\Index\Indexer::class)->update([$ids[$without], $ids[$old]]);
    $found = findings();
    $refs = [
        'Stoppage notice without Waterway' => [$without],
        'Document date in the future' => [$future],
        'Document date before 1500' => [$old],
        'Waterway “the-old-cut” is in no vocabulary' => [$old],
    ];
    foreach ($refs as $words => $expected) {
        expect($found)->toHaveKey($words)
            ->and($found[$words]['documents'])->toBe(count($expected))
            ->and(foundBy($found[$words]['cql'], 'manager'))->toBe($expected);
    }
    foreach ($found as $finding) {
        expect($this->search(['criteria' => [['cql' => $finding['cql']]]], 'manager')->json('total'))->toBe($finding['documents']);
    }
    expect(findings('?library=harbour'))->toBe([])
        ->and(array_keys(findings('?type=stoppage_notice')))->toContain('Stoppage notice without Waterway')
        ->and($this->getJson('/api/oversight/reports/quality?library=waterways')->json('tables.0.says'))->toMatch('/^Of \d documents that you may see/');
    expect($found)->not->toHaveKey('without a document type')->and($whole)->not->toBe('');
});

it('names those that are called as their file', function () {
    $ref = stoppageOf('2001');
    DB::table('documents')->where('ref', $ref)->update(['title' => 'stoppage-2001']);
    app(App\Index\Indexer::class)->update([(int) DB::table('documents')->where('ref', $ref)->value('id')]);
    expect(findings()['called as their file'])->toMatchArray(['documents' => 1, 'group' => 'Titles and texts'])
        ->and(foundBy('titled_by_file = 1', 'manager'))->toBe([$ref]);
});

it('names texts that OCR is not sure of, and terms that are probably the same', function () {
    $sure = stoppageOf('2001');
    $unsure = stoppageOf('2002');
    foreach ([$sure => 91.5, $unsure => 42.25] as $ref => $confidence) {
        DB::table('documents')->where('ref', $ref)->update(['ocr_confidence' => $confidence]);
    }
    app(App\Index\Indexer::class)->update(DB::table('documents')->whereIn('ref', [$sure, $unsure])->pluck('id')->map(intval(...))->all());
    $found = findings()['with a text that OCR is not sure of (less than 70 %)'];
    expect($found['documents'])->toBe(1)->and(foundBy($found['cql'], 'manager'))->toBe([$unsure]);
    // It is a column and a criterion as well.
    $rows = $this->search(['criteria' => [['cql' => 'ocr_confidence > 10']], 'columns' => ['ocr_confidence'], 'sort' => [['field' => 'ocr_confidence']]])->json('rows');
    expect(array_column($rows, 'ref'))->toBe([$unsure, $sure])->and($rows[0]['cells']['ocr_confidence'])->toContain('42.25');
    $waterway = $this->drafted('vocabularies', 'waterway');
    $this->putJson('/api/design/vocabularies/waterway', [...$waterway, 'terms' => [...$waterway['terms'], ['code' => 'sea-tarn', 'label' => 'Sea locks pound']]])->assertOk();
    $this->publish()->assertCreated();
    freshRoutes();
    $double = findings()['Waterway: “Sea lock pound” and “Sea locks pound” are the same words in another form or order'];
    expect($double['documents'])->toBe(2)->and(foundBy($double['cql'], 'manager'))->toEqualCanonicalizing([$sure, $unsure]);
});

it('keeps how sure OCR was of a scan, also when its file is drawn anew, and forgets it with a version that has words of its own', function () {
    ob_start();
    imagepng(scanOf('The sluice of the summit pound is shut'));
    $ref = $this->filed((string) ob_get_clean(), 'scan.png', 'stoppage_notice', ['document_date' => ['2001'], 'waterway' => ['tarn-sea']]);
    $document = App\Models\Document::query()->where('ref', $ref)->firstOrFail();
    expect($document->ocr_confidence)->toBeGreaterThan(50.0)->toBeLessThanOrEqual(100.0)
        ->and(foundBy("ocr_confidence == {$document->ocr_confidence}"))->toBe([$ref]);
    $this->as('librarian')->post("/api/documents/{$ref}/check-out", [], ['Accept' => 'application/json'])->assertSuccessful();
    $this->post("/api/documents/{$ref}/check-in", [
        'file' => Illuminate\Http\UploadedFile::fake()->createWithContent('scan.txt', 'Written anew'),
        'note' => 'x',
    ], ['Accept' => 'application/json'])->assertSuccessful();
    expect($document->refresh()->version)->toBe(2)->and($document->ocr_confidence)->toBeNull();
    expect(DB::table('versions')->where('document_id', $document->id)->where('number', 1)->value('ocr_confidence'))->toBeGreaterThan(50.0);
});

it('tells of nothing that a person may not see, and is a table too', function () {
    $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2090'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    DB::table('roles')->where('code', 'reader')->update(['rights' => json_encode(['read', 'oversee'])]);
    app()->forgetScopedInstances();
    expect(findings('', 'reader'))->toBe([])->and(findings())->not->toBe([]);
    $csv = (string) $this->as('manager')->get('/api/oversight/reports/quality.csv')->assertOk()->getContent();
    expect($csv)->toContain('Document date in the future');
    $this->as('librarian')->getJson('/api/oversight/reports/quality')->assertForbidden();
});
