<?php

declare(strict_types=1);

use App\Models\Document;

beforeEach(function () {
    $this->notice = fn (string $waterway, string $contents = 'shut'): string => $this->filed(
        $contents,
        "{$waterway}.txt",
        'stoppage_notice',
        ['waterway' => [$waterway], 'document_date' => ['2024-03-01'], 'received_from' => ['The lock keeper']],
    );
    $this->values = fn (string $ref): array => array_map(
        fn (array $list): array => array_column($list, 'value'),
        $this->as('clerk')
            ->getJson("/api/documents/{$ref}")
            ->json('values'),
    );
    $this->act = fn (string $path, array $input) => $this->as('clerk')->postJson("/api/document-acts/{$path}", $input);
});

it('moves documents to another library with their fields mapped, and takes it back', function () {
    $refs = [($this->notice)('tarn-sea'), ($this->notice)('tarn-summit')];
    $input = ['documents' => $refs, 'library' => 'harbour', 'type' => 'incident_report', 'how' => 'move'];
    ($this->act)('transfer/plan', ['type' => null] + $input)
        ->assertOk()
        ->assertJsonPath('go', 0)
        ->assertJsonPath('refused.0.why', 'Harbour does not take documents of the type “Stoppage notice”.');
    $plan = ($this->act)('transfer/plan', $input)->assertOk()->json();
    expect($plan['go'])
        ->toBe(2)
        ->and(array_column($plan['lost'], 'field'))
        ->toBe(['received_from']);
    // What the titles become is said before.
    expect($plan['titles']['documents'])
        ->toBe(2)
        ->and($plan['titles']['sample'][0])
        ->toMatchArray(['ref' => $refs[0], 'after' => 'Incident, 1 Mar 2024']);
    $input['mapping'] = ['received_from' => 'author'];
    expect(($this->act)('transfer/plan', $input)->json('lost'))->toBe([]);
    ($this->act)('transfer', [...$input, 'expected' => 1])->assertUnprocessable();
    $act = ($this->act)('transfer', [...$input, 'expected' => 2])
        ->assertCreated()
        ->json('act');
    expect(($this->values)($refs[0]))
        ->toMatchArray(['author' => ['The lock keeper'], 'waterway' => ['tarn-sea']])
        ->not->toHaveKey('received_from')
        ->and(
            $this->search([
                'criteria' => [['cql' => 'library == harbour and type == incident_report', 'negated' => false, 'on' => true]],
            ])->json('total'),
        )
        ->toBe(2);
    $this->as('librarian')
        ->postJson("/api/document-acts/{$act}/undo")
        ->assertNotFound();
    // What somebody changed since stays.
    $this->as('clerk')
        ->putJson("/api/documents/{$refs[1]}", [
            'type' => 'incident_report',
            'values' => ['document_date' => ['2024-04-01']],
            'lock_version' => Document::query()->where('ref', $refs[1])->value('lock_version'),
        ])
        ->assertOk();
    ($this->act)("{$act}/undo", [])
        ->assertOk()
        ->assertExactJson(['undone' => 1, 'left' => 1]);
    ($this->act)("{$act}/undo", [])->assertUnprocessable();
    expect(($this->values)($refs[0]))
        ->toMatchArray(['received_from' => ['The lock keeper']])
        ->and($this->search(['criteria' => [['cql' => 'library == waterways', 'negated' => false, 'on' => true]]])->json('total'))
        ->toBe(1);
});

it('copies documents with their text, without what only the original may show', function () {
    $ref = ($this->notice)('tarn-sea', 'The otter sluice');
    $input = ['documents' => [$ref], 'library' => 'works', 'type' => 'site_diary', 'how' => 'copy'];
    $act = ($this->act)('transfer', [...$input, 'expected' => 1])
        ->assertCreated()
        ->json('act');
    expect($this->search(['words' => 'otter'])->json('total'))->toBe(2);
    ($this->act)("{$act}/undo", [])->assertOk();
    expect($this->search(['words' => 'otter'])->json('total'))->toBe(1);
    // Not into a library where one may not file, and not what is missing something that is required there.
    ($this->act)('transfer/plan', ['library' => 'board'] + $input)->assertNotFound();
    ($this->act)('transfer/plan', ['type' => 'tender'] + $input)
        ->assertOk()
        ->assertJsonPath('go', 0)
        ->assertJsonPath('refused.0.why', fn (string $why) => str_starts_with($why, 'Contractor:'));
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'Case'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref]])->assertOk();
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'Claim'])->assertOk();
    ($this->act)('transfer/plan', ['how' => 'move'] + $input)->assertJsonPath(
        'refused.0.why',
        fn (string $why) => str_contains($why, 'Claim'),
    );
});

it('takes sheets typed or pasted into a table as one reviewed act', function () {
    $refs = [($this->notice)('tarn-sea'), ($this->notice)('tarn-summit'), ($this->notice)('tarn-cray')];
    $rows = ($this->act)('sheets/open', ['documents' => $refs])
        ->assertOk()
        ->json('rows');
    expect(array_column($rows, 'ref'))
        ->toBe($refs)
        ->and($rows[0]['values'])
        ->toMatchArray(['received_from' => 'The lock keeper', 'document_date' => '1 Mar 2024']);
    $row = fn (int $i, array $values): array => ['ref' => $refs[$i], 'lock_version' => $rows[$i]['lock_version'], 'values' => $values];
    $input = [
        'rows' => [
            $row(0, ['received_from' => 'A boater', 'document_date' => '2 April 2024']),
            $row(1, ['document_date' => '31 Feb 2024']),
            $row(2, ['received_from' => 'The lock keeper']),
        ],
    ];
    $plan = ($this->act)('sheets/plan', $input)->assertOk()->json();
    expect($plan['same'])
        ->toBe(1)
        ->and($plan['changes'][0]['fields'])
        ->toBe([
            ['label' => 'Document date', 'before' => '1 Mar 2024', 'after' => '2 Apr 2024'],
            ['label' => 'Received from', 'before' => 'The lock keeper', 'after' => 'A boater'],
        ])
        ->and($plan['faults'][0]['ref'])
        ->toBe($refs[1])
        ->and($plan['faults'][0]['fields'])
        ->toHaveKey('document_date');
    $act = ($this->act)('sheets', [...$input, 'expected' => 1])
        ->assertCreated()
        ->json('act');
    expect(($this->values)($refs[0]))->toMatchArray(['received_from' => ['A boater'], 'document_date' => ['2024-04-02']]);
    // Typed on an older state, it is refused and nothing is lost.
    expect(($this->act)('sheets/plan', $input)->json('faults.0.fields'))->toHaveKey('');
    ($this->act)("{$act}/undo", [])
        ->assertOk()
        ->assertExactJson(['undone' => 1, 'left' => 0]);
    expect(($this->values)($refs[0]))->toMatchArray(['received_from' => ['The lock keeper'], 'document_date' => ['2024-03-01']]);
    $this->as('reader')->postJson('/api/document-acts/sheets', [])->assertForbidden();
});

it('lists last acts until they can no longer be undone, and says what was left alone and why', function () {
    $refs = [($this->notice)('tarn-sea'), ($this->notice)('tarn-summit'), ($this->notice)('tarn-cray')];
    $acts = fn (string $by): array => $this->as($by)->getJson('/api/acts')->assertOk()->json('acts');
    $change = fn (string $ref) => $this->as('clerk')
        ->putJson("/api/documents/{$ref}", [
            'type' => 'incident_report',
            'values' => ['document_date' => ['2024-04-01'], 'waterway' => ['tarn-sea']],
            'lock_version' => Document::query()->where('ref', $ref)->value('lock_version'),
        ])
        ->assertOk();
    $moved = ($this->act)('transfer', [
        'documents' => $refs,
        'library' => 'harbour',
        'type' => 'incident_report',
        'how' => 'move',
        'mapping' => ['received_from' => 'author'],
        'expected' => 3,
    ])
        ->assertCreated()
        ->json('act');
    expect($acts('clerk')[0])
        ->toMatchArray([
            'id' => $moved,
            'of' => 'documents',
            'says' => 'Moved to Harbour',
            'documents' => 3,
            'state' => 'done',
            'undoable' => true,
            'left' => 0,
        ])
        ->and($acts('librarian'))
        ->toBe([])
        ->and($acts('reader'))
        ->toBe([]);
    $change($refs[1]);
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'Case'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$refs[2]]])->assertOk();
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'Claim'])->assertOk();
    ($this->act)("{$moved}/undo", [])
        ->assertOk()
        ->assertExactJson(['undone' => 1, 'left' => 2]);
    $undone = $acts('clerk')[0];
    expect($undone)
        ->toMatchArray(['state' => 'undone', 'undoable' => false, 'documents' => 1, 'left' => 2])
        ->and(array_column($undone['left_alone'], 'why', 'ref'))
        ->toBe([$refs[1] => 'It was changed in the meantime.', $refs[2] => 'On hold: Claim']);

    // When all was changed since, nothing is left to undo.
    $sheet = ($this->act)('sheets/open', ['documents' => [$refs[0]]])->json('rows.0');
    ($this->act)('sheets', [
        'rows' => [['ref' => $refs[0], 'lock_version' => $sheet['lock_version'], 'values' => ['received_from' => 'A boater']]],
        'expected' => 1,
    ])->assertCreated();
    expect($acts('clerk')[0])->toMatchArray(['says' => 'Values typed into a table', 'undoable' => true]);
    $this->as('clerk')
        ->putJson("/api/documents/{$refs[0]}", [
            'type' => 'stoppage_notice',
            'values' => ['document_date' => ['2024-04-01'], 'waterway' => ['tarn-sea']],
            'lock_version' => $sheet['lock_version'] + 1,
        ])
        ->assertOk();
    expect($acts('clerk')[0])->toMatchArray(['undoable' => false, 'why_not' => 'All of its documents were changed in the meantime.']);
});

it('undoes a removal from the last acts, with the rights of that moment', function () {
    $refs = [($this->notice)('tarn-sea'), ($this->notice)('tarn-summit')];
    $act = $this->as('manager')
        ->postJson('/api/removed', ['documents' => $refs, 'reason' => 'Filed twice'])
        ->assertOk()
        ->json('act');
    expect($this->getJson('/api/acts')->json('acts.0'))->toMatchArray([
        'id' => $act,
        'says' => 'Removed from view: Filed twice',
        'undoable' => true,
    ]);
    $this->postJson('/api/removed/restore', ['documents' => [$refs[1]]])->assertOk();
    App\Models\User::query()
        ->where('sign_in', 'manager')
        ->update(['role' => 'reader']);
    $this->as('manager')
        ->postJson("/api/document-acts/{$act}/undo")
        ->assertForbidden();
    App\Models\User::query()
        ->where('sign_in', 'manager')
        ->update(['role' => 'manager']);
    $this->as('manager')
        ->postJson("/api/document-acts/{$act}/undo")
        ->assertOk()
        ->assertExactJson(['undone' => 1, 'left' => 1]);
    expect($this->search([])->json('total'))
        ->toBe(2)
        ->and($this->as('manager')->getJson('/api/acts')->json('acts.0'))
        ->toMatchArray(['state' => 'undone', 'left' => 1])
        ->and($this->getJson('/api/acts')->json('acts.0.left_alone.0.why'))
        ->toBe('It was brought back or destroyed in the meantime.');
    $this->postJson("/api/document-acts/{$act}/undo")->assertUnprocessable();
});
