<?php

declare(strict_types=1);

use App\Models\Document;
use Brenvic\Core\Fields\CheckCharacter;
use Illuminate\Support\Facades\DB;

define('LOCK', 'LK-0417-'.CheckCharacter::for('LK-0417-'));
define('OTHER_LOCK', 'LK-0435-'.CheckCharacter::for('LK-0435-'));

/** @param  array<string, list<string>>  $values */
function madeDossier(
    Tests\TestCase $test,
    array $values = ['structure' => [LOCK]],
    string $kind = 'asset_file',
    string $library = 'waterways',
): array {
    return $test
        ->as('clerk')
        ->postJson('/api/dossiers', ['kind' => $kind, 'library' => $library, 'values' => $values])
        ->assertCreated()
        ->json();
}

it('makes a dossier with its sections and a reference that shows slips', function () {
    $dossier = madeDossier($this, ['structure' => [LOCK], 'asset_class' => ['Single locks']]);
    expect($dossier)
        ->toMatchArray(['title' => LOCK.', A1.1.1 Single locks', 'inside' => []])
        ->and(array_column($dossier['sections'], 'name'))
        ->toBe(['Inspections', 'Works', 'Drawings', 'Correspondence'])
        ->and($dossier['ref'])
        ->toMatch('/^DS-\d{5}-[0-9A-Z]$/');
    $this->postJson('/api/dossiers', ['kind' => 'asset_file', 'library' => 'waterways', 'values' => []])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.structure', 'Structure is required.');
    $ref = $this->filed('x', 'x.txt', 'lock_inspection', ['document_date' => ['2024'], 'structure' => [LOCK]]);
    $wrong = substr($dossier['ref'], 0, -1).($dossier['ref'][-1] === 'A' ? 'B' : 'A');
    expect(
        $this->postJson("/api/dossiers/{$wrong}/documents", ['documents' => [$ref]])
            ->assertUnprocessable()
            ->json('error.message'),
    )->toContain('The check character of');
    $this->postJson('/api/dossiers/'.App\Models\Dossier::refOf(999).'/documents', ['documents' => [$ref]])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', 'There is no dossier '.App\Models\Dossier::refOf(999).'.');
});

it('hands values down to documents without their own, in sheets, searches and facets, as long as they are inside', function () {
    $dossier = madeDossier($this, ['structure' => [LOCK], 'asset_class' => ['A1.1.1'], 'waterway' => ['tarn-sea']]);
    $bare = $this->filed('x', 'bare.txt', 'plan', ['place' => ['Quay'], 'document_date' => ['1901']], 'plans');
    $own = $this->filed('x', 'own.txt', 'plan', ['place' => ['Quay'], 'structure' => [OTHER_LOCK]], 'plans');
    $this->as('clerk')
        ->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$bare, $own], 'section' => $dossier['sections'][2]['id']])
        ->assertOk()
        ->assertJsonPath("inside.{$bare}", $dossier['sections'][2]['id']);
    expect($this->search(['words' => 'structure == '.LOCK])->json('rows.0.ref'))
        ->toBe($bare)
        ->and($this->search(['words' => 'structure == '.LOCK])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'waterway == tarn'])->json('total'))
        ->toBe(2)
        ->and($this->search(['words' => "dossier == {$dossier['ref']}"])->json('total'))
        ->toBe(2)
        ->and($this->search(['words' => 'single locks'])->json('total'))
        ->toBe(2);
    $sheet = $this->as('clerk')
        ->getJson("/api/documents/{$bare}")
        ->json();
    expect($sheet['values']['structure'][0])
        ->toBe(['value' => LOCK, 'label' => LOCK, 'inherited' => true, 'from' => ['ref' => $dossier['ref'], 'title' => $dossier['title']]])
        ->and($sheet['dossiers'][0])
        ->toMatchArray(['ref' => $dossier['ref'], 'kind' => 'Asset file'])
        ->and($this->getJson("/api/documents/{$own}")->json('values.structure.0'))
        ->toBe(['value' => OTHER_LOCK, 'label' => OTHER_LOCK]);
    $this->putJson("/api/dossiers/{$dossier['ref']}", [
        'values' => ['structure' => [LOCK], 'waterway' => ['hb-inner']],
        'lock_version' => 1,
    ])->assertOk();
    expect($this->search(['words' => 'waterway == harbour'])->json('total'))->toBe(2);
    $this->as('clerk')
        ->putJson("/api/dossiers/{$dossier['ref']}", ['values' => ['structure' => [LOCK]], 'lock_version' => 1])
        ->assertConflict();
    $this->postJson("/api/dossiers/{$dossier['ref']}/take-out", ['documents' => [$bare, $own]])
        ->assertOk()
        ->assertJsonPath('inside', []);
    expect($this->search(['words' => 'waterway == harbour'])->json('total'))
        ->toBe(0)
        ->and($this->search(['words' => "dossier == {$dossier['ref']}"])->json('total'))
        ->toBe(0);
});

it('takes only documents of the types that belong inside', function () {
    $dossier = madeDossier($this, ['contractor' => ['Holm Masonry']], 'works_contract', 'works');
    $ref = $this->filed('x', 'x.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    expect(
        $this->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$ref]])
            ->assertUnprocessable()
            ->json('error.message'),
    )->toContain('is a Stoppage notice, which does not belong');
});

it('shows nothing of a dossier, or of what is in it, to those who may not see it', function () {
    $dossier = madeDossier($this);
    $board = $this->as('librarian')
        ->postJson('/api/dossiers', ['kind' => 'asset_file', 'library' => 'board', 'values' => ['structure' => [OTHER_LOCK]]])
        ->assertCreated()
        ->json();
    $minute = $this->filed(
        'x',
        'x.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    $this->as('librarian')
        ->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$minute]])
        ->assertOk();
    $this->as('reader')
        ->getJson("/api/dossiers/{$board['ref']}")
        ->assertNotFound();
    expect(
        $this->getJson("/api/dossiers/{$dossier['ref']}")
            ->assertOk()
            ->json('inside'),
    )->toBe([]);
    $listed = $this->getJson('/api/dossiers?q=lk')->json();
    expect($listed['total'])
        ->toBe(1)
        ->and($listed['dossiers'][0])
        ->toMatchArray(['ref' => $dossier['ref'], 'documents' => 0]);
    $this->postJson('/api/dossiers', ['kind' => 'asset_file', 'library' => 'waterways', 'values' => []])->assertForbidden();
    $this->as('clerk')
        ->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$minute]])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', 'One of these documents does not exist, or you may not see it.');
});

it('counts what a change of a dossier kind would do', function () {
    $dossier = madeDossier($this, ['structure' => [LOCK], 'condition' => ['e']]);
    madeDossier($this, ['structure' => [OTHER_LOCK]]);
    $ref = $this->filed('x', 'x.txt', 'plan', ['place' => ['Quay']], 'plans');
    $this->as('clerk')
        ->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$ref]])
        ->assertOk();
    $kind = $this->drafted('dossier_kinds', 'asset_file');
    $fields = array_map(
        static fn (array $f): array => $f['code'] === 'condition' ? [...$f, 'required' => true, 'handed_down' => true] : $f,
        $kind['fields'],
    );
    $this->putJson('/api/design/dossier_kinds/asset_file', [...$kind, 'fields' => $fields])->assertOk();
    expect(array_map(static fn (array $e): array => [$e['effect'], $e['documents']], $this->effects()))->toBe([
        ['missing', 1],
        ['handed_down', 1],
    ]);
    $this->publish()->assertCreated();
    expect($this->search(['words' => 'condition == e'])->json('rows.0.ref'))->toBe($ref);
    $this->as('librarian')->deleteJson('/api/design/dossier_kinds/asset_file')->assertNoContent();
    $this->publish()->assertUnprocessable();
});

it('fills fields in from a table in the design and from an outside database, and says when that is down', function () {
    $this->as('librarian')
        ->postJson('/api/design/tables', [
            'code' => 'berths',
            'name' => 'Berths',
            'key' => 'berth',
            'fills' => ['holder', 'vessel'],
            'rows' => [['A1', 'Ada Lorne', 'Juniper']],
        ])
        ->assertCreated();
    $this->publish()->assertCreated();
    $this->as('clerk')
        ->postJson('/api/tables/look-up', ['field' => 'berth', 'value' => 'A1'])
        ->assertOk()
        ->assertExactJson([
            'takes' => ['holder' => 'Ada Lorne', 'vessel' => 'Juniper'],
            'asks' => [],
            'table' => 'Berths',
            'trouble' => null,
        ]);
    $this->postJson('/api/tables/look-up', ['field' => 'berth', 'value' => 'Z9'])
        ->assertJsonPath('takes', [])
        ->assertJsonPath('table', null);
    $this->as('reader')
        ->postJson('/api/tables/look-up', ['field' => 'berth', 'value' => 'A1'])
        ->assertForbidden();
    $database = tempnam(sys_get_temp_dir(), 'outside');
    config(['brenvic.outside.suppliers.database' => $database]);
    Demo\Suppliers::fill($database);
    $number = Demo\Suppliers::number('Holm Masonry');
    $this->as('clerk')
        ->postJson('/api/tables/look-up', ['field' => 'supplier', 'value' => strtolower($number)])
        ->assertOk()
        ->assertJsonPath('takes.contractor', 'Holm Masonry');
    expect($this->as('librarian')->getJson('/api/design/tables/suppliers/state')->json('works'))->toBeTrue();
    unlink($database);
    Illuminate\Support\Facades\DB::purge('outside_suppliers');
    config(['brenvic.outside.suppliers.database' => '/nowhere/suppliers.sqlite']);
    expect(
        $this->as('clerk')
            ->postJson('/api/tables/look-up', ['field' => 'supplier', 'value' => $number])
            ->assertOk()
            ->json('trouble'),
    )
        ->toContain('does not answer')
        ->and($this->as('librarian')->getJson('/api/design/tables/suppliers/state')->json('works'))
        ->toBeFalse();
    $read = fn (string $csv) => $this->call('POST', '/api/design/tables/read', [], [], [], ['HTTP_ACCEPT' => 'application/json'], $csv);
    $read("Berth,Vessel\nA1,Juniper\n")
        ->assertOk()
        ->assertExactJson(['key' => 'berth', 'fills' => ['vessel'], 'rows' => [['A1', 'Juniper']]]);
    expect($read("Berth,Colour\nA1,red\n")->assertUnprocessable()->json('error.message'))
        ->toContain('no field “Colour”')
        ->and($read("Berth,Vessel\nA1,x\nA1,y\n")->assertUnprocessable()->json('error.message'))
        ->toContain('stands in line 2 too');
});

it('takes comments on a dossier, finds it by them, and shows them to nobody who may not see it', function () {
    $dossier = madeDossier($this)['ref'];
    $this->as('reader')
        ->postJson("/api/dossiers/{$dossier}/comments", ['text' => ''])
        ->assertUnprocessable();
    $id = $this->postJson("/api/dossiers/{$dossier}/comments", ['text' => 'Ask the otter warden'])
        ->assertCreated()
        ->json('comments.0.id');
    expect(
        $this->as('clerk')
            ->getJson("/api/dossiers/{$dossier}/comments")
            ->json('comments.0'),
    )
        ->toMatchArray(['text' => 'Ask the otter warden', 'by' => 'Isla Thorne', 'own' => false])
        ->and($this->getJson('/api/dossiers?q=otter')->json('dossiers.0.ref'))
        ->toBe($dossier);
    $this->deleteJson("/api/dossiers/{$dossier}/comments/{$id}")->assertNotFound();
    $this->as('reader')
        ->deleteJson("/api/dossiers/{$dossier}/comments/{$id}")
        ->assertOk()
        ->assertExactJson(['comments' => []]);
    expect($this->getJson('/api/dossiers?q=otter')->json('total'))->toBe(0);
    $hidden = App\Models\Dossier::query()->where('ref', $dossier)->firstOrFail();
    $hidden->update(['library_id' => $this->libraryId('board')]);
    $this->getJson("/api/dossiers/{$dossier}/comments")->assertNotFound();
});

it('lets what a key filled in follow the key, asks about what somebody typed, and empties what no key gives', function () {
    $rows = [['A1', 'Ada Lorne', 'Juniper'], ['B2', 'Bel Marsh', 'Sorrel'], ['C3', '', 'Tern']];
    $this->as('librarian')
        ->postJson('/api/design/tables', [
            'code' => 'berths',
            'name' => 'Berths',
            'key' => 'place',
            'fills' => ['author', 'vessel'],
            'rows' => $rows,
        ])
        ->assertCreated();
    $this->publish()->assertCreated();
    $ask = fn (string $was, string $value, string $author, string $vessel): array => $this->as('clerk')
        ->postJson('/api/tables/look-up', [
            'field' => 'place',
            'was' => $was,
            'value' => $value,
            'now' => ['author' => $author, 'vessel' => $vessel],
        ])
        ->assertOk()
        ->json();
    expect($ask('A1', 'B2', 'Ada Lorne', 'Juniper')['takes'])
        ->toBe(['author' => 'Bel Marsh', 'vessel' => 'Sorrel'])
        ->and($ask('A1', 'B2', 'Ada Lorne', 'Typed by hand'))
        ->toMatchArray(['takes' => ['author' => 'Bel Marsh'], 'asks' => ['vessel' => 'Sorrel']])
        ->and($ask('A1', 'C3', 'Ada Lorne', '')['takes'])
        ->toBe(['author' => '', 'vessel' => 'Tern'])
        ->and($ask('A1', 'Z9', 'Ada Lorne', 'Kept')['takes'])
        ->toBe(['author' => ''])
        ->and($ask('A1', '', 'Ada Lorne', 'Juniper')['takes'])
        ->toBe(['author' => '', 'vessel' => ''])
        ->and($ask('A1', 'A1', 'Ada Lorne', 'Juniper')['takes'])
        ->toBe([]);

    // In a table of values too, but for cells that were typed themselves.
    $permit = $this->filed(
        'x',
        'p.txt',
        'incident_report',
        ['document_date' => ['2024'], 'place' => ['A1'], 'author' => ['Ada Lorne'], 'vessel' => ['Juniper']],
        'harbour',
    );
    $row = fn (array $cells): array => [
        'rows' => [
            [
                'ref' => $permit,
                'lock_version' => App\Models\Document::query()->where('ref', $permit)->value('lock_version'),
                'values' => $cells,
            ],
        ],
        'expected' => 1,
    ];
    $this->as('clerk')->postJson('/api/document-acts/sheets', $row(['place' => 'B2']))->assertCreated();
    expect(valuesOf($permit, 'vessel'))
        ->toBe(['Sorrel'])
        ->and(valuesOf($permit, 'author'))
        ->toBe(['Bel Marsh']);
    $this->postJson('/api/document-acts/sheets', $row(['place' => 'C3', 'vessel' => 'Fathom']))->assertCreated();
    expect(valuesOf($permit, 'vessel'))
        ->toBe(['Fathom'])
        ->and(valuesOf($permit, 'author'))
        ->toBe([]);
    expect(
        $this->postJson('/api/value-acts/plan', ['documents' => [$permit], 'field' => 'place', 'how' => 'set', 'values' => ['A1']])->json(
            'leaves',
        ),
    )->toBe(['Vessel', 'Author']);
});

it('says of each value from which of two dossiers it comes, and names none that a person may not see', function () {
    $dossier = madeDossier($this);
    $board = $this->as('librarian')
        ->postJson('/api/dossiers', [
            'kind' => 'asset_file',
            'library' => 'board',
            'values' => ['structure' => [OTHER_LOCK], 'waterway' => ['hb-inner']],
        ])
        ->assertCreated()
        ->json();
    $ref = $this->filed('x', 'x.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    DB::table('document_values')
        ->where('document_id', Document::query()->where('ref', $ref)->value('id'))
        ->whereIn('field_id', DB::table('fields')->where('code', 'waterway')->pluck('id'))
        ->delete();
    $this->as('librarian')
        ->postJson("/api/dossiers/{$board['ref']}/documents", ['documents' => [$ref]])
        ->assertOk();
    $this->putJson("/api/dossiers/{$dossier['ref']}", ['values' => ['structure' => [LOCK]], 'lock_version' => 1])->assertOk();
    $this->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$ref]])->assertOk();
    $values = fn (string $who): array => $this->as($who)
        ->getJson("/api/documents/{$ref}")
        ->json('values');
    expect($values('librarian')['structure'][0]['from']['ref'])
        ->toBe($dossier['ref'])
        ->and($values('librarian')['waterway'][0]['from']['ref'])
        ->toBe($board['ref'])
        ->and($values('reader')['structure'][0]['from']['ref'])
        ->toBe($dossier['ref'])
        ->and($values('reader')['waterway'][0])
        ->toMatchArray(['inherited' => true])
        ->not->toHaveKey('from');
});

it('keeps what a dossier hands down in the title when a sheet is changed', function () {
    $dossier = madeDossier($this);
    $ref = $this->filed('x', 'diary.txt', 'site_diary', ['document_date' => ['2024']], 'works', 'librarian');
    $this->as('librarian')
        ->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$ref]])
        ->assertOk();
    $title = 'Site diary '.LOCK.', 2024';
    expect($this->getJson("/api/documents/{$ref}")->json('title'))->toBe($title);
    $this->putJson("/api/documents/{$ref}", [
        'type' => 'site_diary',
        'values' => ['document_date' => ['2025']],
        'lock_version' => 1,
    ])->assertOk();
    expect($this->getJson("/api/documents/{$ref}")->json('title'))->toBe('Site diary '.LOCK.', 2025');
});
