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
    return array_column(test()->as($by)->getJson("/api/oversight/reports/quality{$query}")->assertOk()->json('findings'), null, 'words');
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
        'Waterway “the-old-cut”' => [$old],
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
        ->and($this->getJson('/api/oversight/reports/quality?library=waterways')->json('documents'))->toBeGreaterThan(3);
    expect($found)->not->toHaveKey('without a document type')->and($whole)->not->toBe('');
});

it('names those that are called as their file', function () {
    $ref = stoppageOf('2001');
    DB::table('documents')->where('ref', $ref)->update(['title' => 'stoppage-2001']);
    app(App\Index\Indexer::class)->update([(int) DB::table('documents')->where('ref', $ref)->value('id')]);
    expect(findings()['called as their file'])->toMatchArray(['documents' => 1, 'group' => 'Titles and texts'])
        ->and(foundBy('titled_by_file = 1', 'manager'))->toBe([$ref]);
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
