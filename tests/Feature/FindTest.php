<?php

declare(strict_types=1);

use App\Models\User;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Queue;

beforeEach(function () {
    foreach (
        [
            ['Gate seepage at the sill', '2019-03-14', 'tarn-sea', 'b'],
            ['Gate repaired', '2020-05-01', 'tarn-sea', 'd'],
            ['Draft of gate seepage', '2021', 'basin-coal', ''],
            ['Café on the quay', '2019', 'harbour', 'b'],
        ] as $i => [$text, $date, $waterway, $grade]
    ) {
        $this->filed($text, "n{$i}.txt", 'dredging_survey', [
            'document_date' => [$date],
            'waterway' => [$waterway],
            'condition' => [$grade],
            'silt_depth' => [(string) ($i / 2)],
        ]);
    }
});

it('finds by words, phrases, fields and their combinations', function (string $words, int $total) {
    expect(
        $this->search(['words' => $words])
            ->assertOk()
            ->json('total'),
    )->toBe($total);
})->with([
    ['', 4],
    ['gate', 3],
    ['gate seepage', 2],
    ['"gate seepage"', 2],
    ['gate -draft', 2],
    ['cafe', 1],
    ['CAFÉ', 1],
    ['gat*', 3],
    ['waterway == tarn', 2],
    ['waterway == "Sea lock pound"', 2],
    ['condition == ""', 1],
    ['condition <> ""', 3],
    ['document_date within "2019 2020-12"', 3],
    ['document_date >= 2020', 2],
    ['silt_depth > 0.5', 2],
    ['silt_depth within "0 0.5"', 2],
    ['type == dredging_survey and gate', 3],
    ['gate or cafe', 4],
    ['path = n0', 0],
    ['title = coal', 1],
    ['silt depth 0.5', 0],
]);

it('counts each line alone, running and without', function () {
    $answer = $this->search(['words' => 'gate seepage', 'criteria' => [['cql' => 'waterway == tarn', 'negated' => false, 'on' => true]]]);
    expect(array_map(fn (array $l): array => [$l['alone'], $l['running'], $l['without']], $answer->json('ledger')))
        ->toBe([[3, 3, 1], [2, 2, 2], [2, 1, 2]])
        ->and($answer->json('ledger.2'))
        ->toMatchArray(['subject' => 'Waterway', 'relation' => 'is', 'value' => 'Tarnwick Canal', 'typed' => false])
        ->and($answer->json('ledger.2.asked'))
        ->toBe(['of' => 'waterway', 'relation' => 'is', 'values' => ['tarn']])
        ->and($answer->json('ledger.0.words_without'))
        ->toBe('seepage')
        ->and($answer->json('ledger.1.words_before'))
        ->toBe('gate')
        ->and($answer->json('ledger.2.words_before'))
        ->toBeNull();
});

it('lets plain words reach other endings, as the office or the person has it', function () {
    $found = fn (array $search): array => $this->search($search)->json();
    expect($found(['words' => 'repair'])['total'])
        ->toBe(1)
        ->and($found(['words' => 'repair'])['ledger'][0])
        ->toMatchArray(['reach' => 'same_stem', 'relation' => 'contains', 'value' => 'repair'])
        ->and($found(['words' => '"repair"'])['total'])
        ->toBe(0)
        ->and($found(['words' => 'repair', 'reach' => 'as_written'])['total'])
        ->toBe(0);
    $this->as('reader')->putJson('/api/design/settings', ['reach' => 'as_written'])->assertForbidden();
    $this->as('librarian')
        ->putJson('/api/design/settings', ['reach' => 'as_written'])
        ->assertOk()
        ->assertJsonPath('reach', 'as_written');
    $this->putJson('/api/design/settings', ['reach' => 'far'])->assertUnprocessable();
    expect($this->as('reader')->getJson('/api/design')->json('words.office_reach'))->toBe('as_written')
        ->and($this->postJson('/api/search', ['words' => 'repair'])->json('total'))
        ->toBe(0);
    $this->putJson('/api/me/preferences', ['reach' => 'same_stem'])->assertOk();
    expect($this->postJson('/api/search', ['words' => 'repair'])->json('total'))->toBe(1);
    $kept = $this->postJson('/api/searches', ['name' => 'Repairs', 'search' => ['words' => 'repair']])->json('searches.0');
    expect($kept['search']['reach'])->toBe('same_stem')->and($kept['total'])->toBe(1);
    // What is kept finds the same, whatever is liked later.
    $this->putJson('/api/me/preferences', ['reach' => null])->assertOk();
    expect($this->getJson('/api/searches')->json('searches.0.total'))->toBe(1);
});

it('tells once what all that was found say, and keeps the rest row by row', function () {
    $same = fn (array $search) => $this->search(['columns' => ['type', 'library', 'condition', 'waterway', 'document_date'], ...$search])->json('same');
    $all = $this->search(['columns' => ['type', 'library', 'condition', 'waterway', 'document_date']]);
    $texts = fn (array $rows, string $code): array => array_values(array_unique(array_column(array_column($rows, 'cells'), $code)));
    foreach (['gate', 'seepage', ''] as $words) {
        $rows = $this->search(['words' => $words, 'columns' => ['type', 'library', 'condition', 'waterway', 'document_date']])->json('rows');
        $told = $same(['words' => $words]);
        foreach (['type', 'library', 'condition', 'waterway', 'document_date'] as $code) {
            $each = $texts($rows, $code);
            expect($told[$code] ?? null)->toBe(count($each) === 1 && $each[0] !== '' && count($rows) > 1 ? $each[0] : null, "{$words} {$code}");
        }
        // The first rows of more say no more than all of them.
        foreach ($same(['words' => $words, 'limit' => 2]) as $code => $text) {
            expect($told[$code] ?? null)->toBe($text, "{$words} {$code}");
        }
    }
    expect($all->json('unread'))->toBe(0);
});

it('says how many texts are still being read', function () {
    $before = $this->search([])->json('total');
    Queue::fake();
    $this->filed('Not read yet.', 'late.txt', 'dredging_survey', ['document_date' => ['2022'], 'waterway' => ['harbour']]);
    expect($this->search([])->json())->toMatchArray(['total' => $before + 1, 'unread' => 1]);
});

it('makes criteria of words in one part of the documents', function () {
    $make = fn (array $given) => $this->as('reader')->postJson('/api/search/criterion', $given);
    expect($make(['field' => 'text', 'relation' => 'near', 'values' => ['gate sill', '4'], 'reach' => 'as_written'])->json('cql'))
        ->toBe('text = gate prox /distance<=4 text = sill')
        ->and($make(['field' => 'anywhere', 'relation' => 'all_words', 'values' => ['gates']])->json('cql'))
        ->toBe('cql.serverChoice = /stem gates');
    $make(['field' => 'text', 'relation' => 'near', 'values' => ['gate']])->assertUnprocessable();
    $make(['field' => 'text', 'relation' => 'is', 'values' => ['gate']])->assertUnprocessable();
    $make(['field' => 'waterway', 'relation' => 'near', 'values' => ['gate']])->assertUnprocessable();
});

it('names what words were widened to, suggests for a word that is nowhere, and says what to drop', function () {
    $wide = $this->search(['words' => 'text =/stem gates']);
    expect($wide->json('total'))
        ->toBe(3)
        ->and($wide->json('ledger.0.reach'))
        ->toBe('same_stem')
        ->and($wide->json('ledger.0.variants.0.words.0'))
        ->toMatchArray(['word' => 'gate', 'count' => 3, 'on' => true, 'cql' => 'text = /stem /without=gate gates']);
    $slip = $this->search(['words' => 'seepge gate']);
    expect($slip->json('ledger.0.variants.0.words.0'))
        ->toMatchArray(['word' => 'seepage', 'count' => 2, 'cql' => 'cql.serverChoice = /stem seepage'])
        ->and($this->search(['words' => 'seepge gate', 'reach' => 'as_written'])->json('ledger.0.variants.0.words.0.cql'))
        ->toBe('seepage')
        ->and($slip->json('rescues'))
        ->toBe([['lines' => [0], 'count' => 3]]);
    expect($this->search(['words' => 'sill café repaired'])->json('rescues'))
        ->toHaveCount(3)
        ->sequence(fn ($r) => $r->lines->toHaveCount(2), fn ($r) => $r->count->toBe(1), fn ($r) => $r->count->toBe(1));
});

it('takes a facet’s value in, another as an alternative, and lets go of both', function () {
    $facet = fn (array $search) => $this->search($search);
    $one = $facet(['toggle' => ['field' => 'condition', 'value' => 'b']]);
    expect($one->json('total'))->toBe(2)->and($one->json('criteria.0.cql'))->toBe('condition == b');
    $two = $facet(['criteria' => $one->json('criteria'), 'toggle' => ['field' => 'condition', 'value' => 'd']]);
    expect($two->json('total'))->toBe(3)->and($two->json('ledger.0.relation'))->toBe('is one of');
    $none = $facet(['criteria' => $one->json('criteria'), 'toggle' => ['field' => 'condition', 'value' => 'b']]);
    expect($none->json('criteria'))->toBe([])->and($none->json('total'))->toBe(4);
    expect($facet(['toggle' => ['field' => 'condition', 'value' => 'b', 'exclude' => true]])->json('total'))->toBe(2);
});

it('rolls trees up and keeps counts true to the result', function () {
    $facets = collect($this->search(['words' => 'gate'])->json('facets'))->keyBy('field');
    $counts = collect($facets['waterway']['values'])->pluck('count', 'value')->all();
    expect($counts)
        ->toMatchArray(['tarn' => 2, 'tarn-lower' => 2, 'tarn-sea' => 2, 'basins' => 1, 'basin-coal' => 1])
        ->not->toHaveKey('harbour');
    expect(collect($facets['document_date']['values'])->pluck('count', 'value')->all())->toMatchArray([
        '2019' => 1,
        '2019-03' => 1,
        '2020' => 1,
        '2021' => 1,
    ]);
});

it('makes criteria from a form, and says what is wrong with one', function () {
    $make = fn (string $field, string $relation, array $values) => $this->as('reader')->postJson(
        '/api/search/criterion',
        compact('field', 'relation', 'values'),
    );
    expect($make('document_date', 'between', ['14 Mar 2020', '2019'])->json('cql'))
        ->toBe('document_date within "2019 2020-03-14"')
        ->and($make('condition', 'is', ['B: good', 'd'])->json('cql'))
        ->toBe('condition == b or condition == d')
        ->and($make('vessel', 'contains', ['mari*'])->json('cql'))
        ->toBe('vessel = "*mari\\**"')
        ->and($make('silt_depth', 'is_empty', [])->json('cql'))
        ->toBe('silt_depth == ""');
    $make('silt_depth', 'is', ['deep'])
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['value']]]);
    $make('document_date', 'between', ['2019'])->assertUnprocessable();
    $make('dept', 'is', ['x'])
        ->assertUnprocessable()
        ->assertJsonPath('error.code', 'query');
});

it('says where a query goes wrong', function () {
    $this->search(['words' => 'waterwy == x'])
        ->assertUnprocessable()
        ->assertJson(['error' => ['code' => 'query', 'suggestion' => 'waterway']]);
    $this->search(['words' => 'title = (gate'])
        ->assertUnprocessable()
        ->assertJsonPath('error.position', 8);
});

it('sorts by any column and loses no row between pages', function () {
    $refs = fn (array $search) => array_column($this->search($search)->json('rows'), 'ref');
    $all = $refs(['sort' => [['field' => 'silt_depth', 'descending' => true]]]);
    $paged = [
        ...$refs(['sort' => [['field' => 'silt_depth', 'descending' => true]], 'limit' => 3]),
        ...$refs(['sort' => [['field' => 'silt_depth', 'descending' => true]], 'limit' => 3, 'offset' => 3, 'rows_only' => true]),
    ];
    expect($paged)->toBe($all)->toHaveCount(4);
    $titles = array_column($this->search(['sort' => [['field' => 'title']]])->json('rows'), 'title');
    $sorted = $titles;
    sort($sorted);
    expect($titles)->toBe($sorted);
    $this->search(['sort' => [['field' => 'nothing']]])->assertUnprocessable();
});

it('shows the words around the first hit', function () {
    $row = $this->search(['words' => 'seepage sill'])->json('rows.0');
    expect($row['snippet'])
        ->toContain(['seepage', true])
        ->toContain(['sill', true])
        ->and($this->search(['words' => 'seepage sill', 'snippets' => false])->json('rows.0.snippet'))
        ->toBeNull();
});

it('marks what was looked for around the text: title, values, path and comments', function () {
    $ref = $this->search(['words' => 'repaired'])->json('rows.0.ref');
    $this->as('clerk')
        ->postJson("/api/documents/{$ref}/comments", ['text' => 'Sea lock gate, see the diary'])
        ->assertCreated();
    $hits = fn (string $words, array $criteria = []) => $this->as('reader')
        ->getJson(
            "/api/documents/{$ref}/hits?".
                http_build_query(['words' => $words, 'criteria' => array_map(static fn (string $cql): array => ['cql' => $cql], $criteria)]),
        )
        ->assertOk()
        ->json();
    $of = $hits('"sea lock" 2020', ['silt_depth < 1', 'waterway == tarn', 'condition == b or condition == d']);
    expect($of['values']['waterway'][0])
        ->toBe([['Sea lock pound', true]])
        ->and($of['values']['silt_depth'][0][0][1])
        ->toBeTrue()
        ->and($of['values']['condition'][0])
        ->toBe([['D: poor', true]])
        ->and($of['values'])
        ->not->toHaveKey('document_date')
        ->and(array_values($of['comments']))
        ->toBe([[['Sea lock', true], [' gate, see the diary', false]]])
        ->and($of['title'])
        ->toContain(['Sea lock', true]);
    expect($hits('', ['waterway == harbour', 'document_date within "last year"']))->toMatchArray([
        'values' => [],
        'comments' => [],
        'title' => null,
        'path' => null,
    ]);
    expect($hits('', ['document_date = 2020-05'])['values'])->toHaveKey('document_date');
});

it('changes a document, overwrites nothing, and the next search knows', function () {
    $ref = $this->search(['words' => 'repaired'])->json('rows.0.ref');
    $document = $this->as('clerk')
        ->getJson("/api/documents/{$ref}")
        ->json();
    $values = ['document_date' => ['2022-01-01'], 'waterway' => ['res-mere']];
    $this->putJson("/api/documents/{$ref}", ['type' => 'dredging_survey', 'values' => $values, 'lock_version' => $document['lock_version']])
        ->assertOk()
        ->assertJsonPath('title', 'Brinmere: dredging survey 1 Jan 2022');
    expect($this->search(['words' => 'waterway == reservoirs'])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'condition == d'])->json('total'))
        ->toBe(0);
    $this->as('clerk')
        ->putJson("/api/documents/{$ref}", ['type' => 'dredging_survey', 'values' => $values, 'lock_version' => $document['lock_version']])
        ->assertConflict()
        ->assertJsonPath('error.current.ref', $ref);
    $this->putJson("/api/documents/{$ref}", [
        'type' => 'dredging_survey',
        'values' => ['document_date' => ['never']],
        'lock_version' => $document['lock_version'] + 1,
    ])->assertUnprocessable();
    expect($this->search(['words' => 'waterway == res-mere'])->json('total'))->toBe(1);
});

it('remembers what was read on the desk', function () {
    $ref = $this->search(['words' => 'repaired'], 'reader')->json('rows.0.ref');
    $this->as('reader')->getJson("/api/documents/{$ref}");
    $desk = $this->getJson('/api/desk')->assertOk();
    expect($desk->json('read.0.ref'))
        ->toBe($ref)
        ->and(collect($desk->json('libraries'))->firstWhere('code', 'waterways')['documents'])
        ->toBe(4);
});

it('writes dates and numbers as each person has them, and titles and exports as ever', function () {
    $survey = $this->filed('x', 'deep.txt', 'dredging_survey', [
        'document_date' => ['2024-03-04'],
        'waterway' => ['tarn-sea'],
        'condition' => ['a'],
        'silt_depth' => ['12.5'],
    ]);
    $shown = function (string $who) use ($survey): array {
        $found = $this->search([
            'words' => 'document_date == 2024-03-04 and silt_depth > 10',
            'columns' => ['document_date', 'silt_depth'],
        ], $who);
        $sheet = $this->getJson("/api/documents/{$survey}")->json('values');

        return [
            $found->json('rows.0.cells.document_date'),
            $found->json('rows.0.cells.silt_depth'),
            $found->json('ledger.0.parts.0.value') ?? $found->json('ledger.0.value'),
            $sheet['document_date'][0]['label'],
            $found->json('rows.0.title'),
        ];
    };
    $usual = $shown('librarian');
    expect($usual[0])->toBe('4 Mar 2024')->and($usual[4])->toContain('4 Mar 2024');
    $this->as('reader')->putJson('/api/me/preferences', ['dates' => 'slashes', 'numbers' => 'comma'])->assertOk();
    $mine = $shown('reader');
    expect($mine[0])
        ->toBe('04/03/2024')
        ->and($mine[1])
        ->toBe("12,5\u{00A0}m")
        ->and($mine[2])
        ->not->toBe($usual[2])
        ->and($mine[3])
        ->toBe('04/03/2024')
        ->and($mine[4])
        ->toBe($usual[4])
        ->and($shown('librarian'))
        ->toBe($usual);
    $this->as('reader')->putJson('/api/me/preferences', ['dates' => 'roman'])->assertUnprocessable();
    // A setting leaves those alone that another request has just saved.
    $stale = User::query()->where('sign_in', 'reader')->firstOrFail();
    $this->putJson('/api/me/preferences', ['dates' => 'iso', 'columns' => ['a' => [['code' => 'type', 'width' => null]]]])->assertOk();
    $this->actingAs($stale)->putJson('/api/me/preferences', ['notices' => 'long', 'reach' => null])->assertOk();
    expect($this->getJson('/api/session')->json('user.preferences'))
        ->toMatchArray(['dates' => 'iso', 'numbers' => 'comma', 'notices' => 'long', 'columns' => ['a' => [['code' => 'type', 'width' => null]]]]);
});

it('lists on the desk what was filed last first, however long it waited, and nothing that may not be seen', function () {
    $waited = $this->upload('x', 'waited.txt')->json('ref');
    $this->travel(1)->minutes();
    $sheet = ['document_date' => ['2024'], 'waterway' => ['tarn-sea'], 'condition' => ['a']];
    $board = $this->filed('y', 'board.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $quick = $this->filed('z', 'quick.txt', 'dredging_survey', $sheet);
    $this->travel(1)->minutes();
    $this->postJson('/api/intake/file', ['documents' => [$waited], 'type' => 'dredging_survey', 'values' => $sheet])->assertOk();
    $filed = fn (string $who): array => array_column($this->as($who)->getJson('/api/desk')->json('filed'), 'ref');
    expect(array_slice($filed('librarian'), 0, 3))
        ->toBe([$waited, $quick, $board])
        ->and(array_slice($filed('reader'), 0, 2))
        ->toBe([$waited, $quick])
        ->and($filed('reader'))
        ->not->toContain($board);
});

it('divides what is found by levels, with counts and sums, down through trees and dates', function () {
    $groups = fn (array $level, array $criteria = []) => array_map(
        fn (array $g): array => [$g['label'], $g['count'], $g['total'] === null ? null : "{$g['total']['sum']}, {$g['total']['range']}"],
        $this->as('librarian')
            ->postJson('/api/search/groups', [
                'words' => '',
                'criteria' => array_map(fn (string $cql): array => ['cql' => $cql], $criteria),
                ...$level,
            ])
            ->assertOk()
            ->json('groups'),
    );
    expect($groups(['level' => 'waterway', 'total' => 'silt_depth']))->toBe([
        ['Tarnwick Canal', 2, "0.5\u{A0}m, 0 to 0.5\u{A0}m"],
        ['Basins', 1, "1\u{A0}m, 1\u{A0}m"],
        ['Tidal harbour', 1, "1.5\u{A0}m, 1.5\u{A0}m"],
    ]);
    expect($groups(['level' => 'document_date']))
        ->toBe([['2021', 1, null], ['2020', 1, null], ['2019', 2, null]])
        ->and($groups(['level' => 'document_date', 'below' => '2019'], ['document_date = 2019']))
        ->toBe([['Only the year is known', 1, null], ['Mar 2019', 1, null]])
        ->and($groups(['level' => 'condition'], ['waterway == tarn']))
        ->toBe([['B: good', 1, null], ['D: poor', 1, null]])
        ->and($groups(['level' => 'condition']))
        ->toContain(['', 1, null]);
    foreach (['waterway', 'document_date', 'condition', 'silt_depth', 'type'] as $level) {
        foreach (
            $this->as('librarian')
                ->postJson('/api/search/groups', ['level' => $level])
                ->json('groups') as $group
        ) {
            expect($this->search(['criteria' => [['cql' => $group['cql']]]])->json('total'))->toBe($group['count'], $group['cql']);
        }
    }
});

it('advises on columns and levels from the documents', function () {
    $advice = $this->as('librarian')
        ->postJson('/api/design/advice', ['criterion' => 'type == dredging_survey'])
        ->assertOk();
    $fields = collect($advice->json('fields'))->keyBy('field');
    expect($advice->json('documents'))
        ->toBe(4)
        ->and($fields['type'])
        ->toMatchArray(['only' => 'Dredging survey', 'bits' => 0])
        ->and($fields['document_date'])
        ->toMatchArray(['distinct' => 3, 'bits' => 1.5, 'filled' => 4])
        ->and($fields['condition'])
        ->toMatchArray(['filled' => 3, 'mostly_empty' => false])
        ->and($fields)
        ->not->toHaveKey('vessel')
        ->and($fields['silt_depth'])
        ->toMatchArray(['filled' => 4, 'distinct' => 4, 'mostly_empty' => false])
        ->and($advice->json('dividing'))
        ->toContain('condition')
        ->not->toContain('type');
});

it('orders and searches within a facet, keeps what is left out in sight, and cuts numbers into ranges', function () {
    $facet = fn (array $search, string $field) => collect($this->search($search)->assertOk()->json('facets'))->firstWhere('field', $field);
    $names = fn (array $facet): array => array_column($facet['values'], 'label');
    expect($names($facet(['facets' => [['field' => 'waterway', 'order' => 'name', 'search' => 'pound']]], 'waterway')))
        ->toBe(['Sea lock pound'])
        ->and($names($facet(['facets' => [['field' => 'condition', 'order' => 'name']]], 'condition')))
        ->toBe(['B: good', 'D: poor'])
        ->and($facet(['facets' => [['field' => 'condition', 'order' => 'standing_out']]], 'condition')['values'])
        ->toBe([]);
    $left = $facet(['criteria' => [['cql' => 'condition == b', 'negated' => true]]], 'condition');
    expect(collect($left['values'])->firstWhere('value', 'b'))->toMatchArray(['count' => 2, 'excluded' => true, 'chosen' => false]);
    $ranges = $facet([], 'silt_depth')['ranges'];
    expect(array_sum(array_column($ranges, 'count')))->toBe(4);
    foreach ($ranges as $range) {
        expect($this->search(['criteria' => [['cql' => $range['cql']]]])->json('total'))->toBe($range['count']);
    }
    $this->search(['facets' => [['field' => 'condition', 'order' => 'sideways']]])->assertUnprocessable();
});

it('says what nearly fits when nothing does', function () {
    $misses = fn (array $search): array => array_map(
        fn (array $m): array => [$m['kind'], $m['line'], $m['cql'], $m['count']],
        $this->search($search)->json('near_misses'),
    );
    expect($misses(['words' => 'gate', 'criteria' => [['cql' => 'document_date within "2022 2023"']]]))
        ->toBe([['wider_range', 1, 'document_date within "2021-01-01 2023-12-31"', 1]])
        ->and($misses(['words' => 'repair', 'reach' => 'as_written', 'criteria' => [['cql' => 'type == dredging_survey']]]))
        ->toContain(['variant', 0, 'cql.serverChoice = /stem repair', 1])
        ->and($misses(['words' => 'gate', 'criteria' => [['cql' => 'library == harbour']]]))
        ->toBe([['other_place', 1, 'library == waterways', 3]]);
    foreach ($this->search(['words' => 'gate', 'criteria' => [['cql' => 'silt_depth > 9']]])->json('near_misses') as $miss) {
        expect($this->search(['words' => 'gate', 'criteria' => [['cql' => $miss['cql']]]])->json('total'))
            ->toBe($miss['count'])
            ->toBeGreaterThan(0);
    }
});

it('answers in two parts for those who take them, and as one for others, with the same in it', function () {
    $lines = ['Accept' => 'application/x-ndjson'];
    foreach (
        [
            ['words' => 'seepage'],
            ['words' => 'no such word'],
            ['words' => '', 'toggle' => ['field' => 'type', 'value' => 'dredging_survey']],
        ] as $search
    ) {
        $parts = array_map(
            static fn (string $line): array => json_decode($line, true),
            explode(
                "\n",
                trim(
                    $this->as('clerk')
                        ->postJson('/api/search', $search, $lines)
                        ->assertOk()
                        ->assertHeader('Content-Type', 'application/x-ndjson')
                        ->streamedContent(),
                ),
            ),
        );
        expect($parts)
            ->toHaveCount(2)
            ->and($parts[0])
            ->toHaveKeys(['total', 'ledger', 'rows'])
            ->not->toHaveKey('facets')
            ->and(array_keys($parts[1]))
            ->toEqualCanonicalizing(['facets', 'took_ms', 'steps']);
        $timeless = static fn (array $answer): array => array_diff_key($answer, ['took_ms' => 0, 'steps' => 0]);
        expect($timeless([...$parts[0], ...$parts[1]]))->toEqual($timeless($this->search($search, 'clerk')->json()));
    }
    // What is wrong is said before anything is sent, in the one shape of errors.
    $this->postJson('/api/search', ['words' => 'vesel = tern'], $lines)
        ->assertUnprocessable()
        ->assertJsonPath('error.code', 'query');
    $this->postJson('/api/search', ['words' => str_repeat('x', 70_000)], $lines)->assertUnprocessable();
});

it('finds references and file names whole, by their beginning, their end and any part', function (string $words, int $total) {
    foreach (['Survey of 2019.pdf.txt', 'survey-of-2020.txt', 'O’Brien_Äußerung.txt', str_repeat('long ', 9).'name.txt'] as $i => $name) {
        $this->filed("File {$i}", $name, 'dredging_survey', [
            'document_date' => ['2019'],
            'waterway' => ['tarn-sea'],
            'silt_depth' => ['1'],
        ]);
    }
    expect(
        $this->search(['words' => $words])
            ->assertOk()
            ->json('total'),
    )->toBe($total, $words);
})->with([
    ['file_name == "Survey of 2019.pdf.txt"', 1],
    ['file_name == "survey of 2019.pdf.txt"', 1],
    ['file_name == "Survey of 2019"', 0],
    ['file_name == "survey*"', 2],
    ['file_name == "survey-of-20*"', 2],
    ['file_name == "survey o*"', 2],
    ['file_name == "survey of 2019.p*"', 1],
    ['file_name == "of*"', 0],
    ['file_name == "*.txt"', 8],
    ['file_name == "*2020.txt"', 1],
    ['file_name == "sur*2020.txt"', 1],
    ['file_name == "*of*txt"', 2],
    ['file_name == "n?.txt"', 4],
    ['file_name == "obrien äuß*"', 1],
    ['file_name == "obrien ausx*"', 0],
    ['file_name == "'.str_repeat('long ', 9).'na*"', 1],
    ['file_name == "'.str_repeat('long ', 9).'nb*"', 0],
    ['file_name = 2019', 1],
    ['file_name = "*rvey*"', 2],
    ['file_name <> "n0.txt"', 7],
    ['file_name == ""', 0],
    ['file_name <> ""', 8],
    ['file_name = *', 8],
    ['ref == "D-0*"', 8],
    ['ref == "D-*"', 8],
    ['ref == "D-9*"', 0],
    ['ref == ""', 0],
    ['ref = "*000*"', 8],
]);

it('finds a document by its reference as it is written anywhere', function () {
    $ref = $this->search(['words' => 'cafe'])->json('rows.0.ref');
    foreach (
        ["ref == {$ref}", 'ref == '.strtolower($ref), "ref = {$ref}", 'ref == "'.substr($ref, 0, 7).'*"', "dc.identifier == {$ref}"] as $words
    ) {
        expect(
            $this->search(['words' => $words])
                ->assertOk()
                ->json('rows.*.ref'),
        )->toBe([$ref], $words);
    }
    $made = $this->as('reader')
        ->postJson('/api/search/criterion', ['field' => 'ref', 'relation' => 'is', 'values' => [strtolower($ref)]])
        ->json('cql');
    expect($this->search(['criteria' => [['cql' => $made]]])->json('total'))->toBe(1);
});

it('finds any part of a name by “contains”, and says so', function (string $field, string $part, int $total) {
    $this->filed(
        'Vessel',
        'v.txt',
        'pilotage_note',
        ['vessel' => ['Marigold Ash'], 'document_date' => ['2023-05-01'], 'waterway' => ['harbour']],
        'harbour',
    );
    $cql = $this->as('reader')
        ->postJson('/api/search/criterion', ['field' => $field, 'relation' => 'contains', 'values' => [$part]])
        ->assertOk()
        ->json('cql');
    $answer = $this->search(['criteria' => [['cql' => $cql]]])->assertOk();
    expect($answer->json('total'))
        ->toBe($total)
        ->and($answer->json('ledger.0'))
        ->toMatchArray(['relation' => 'contains', 'value' => $part]);
})->with([
    ['vessel', 'gold', 1],
    ['vessel', 'marigold', 1],
    ['vessel', 'old as', 1],
    ['vessel', 'ash mari', 0],
    ['vessel', 'tern', 0],
    ['creator', 'wick d', 5],
    ['creator', 'zz', 0],
    ['waterway', 'lock po', 2],
    ['file_name', '.tx', 5],
    ['library', 'water', 4],
]);

it('keeps “is not” to documents that have a value', function () {
    $count = fn (array $criterion): int => $this->search(['criteria' => [$criterion]])->json('total');
    expect($count(['cql' => 'condition <> b']))
        ->toBe(1)
        ->and($count(['cql' => 'condition == b', 'negated' => true]))
        ->toBe(2)
        ->and($count(['cql' => 'condition <> ""']))
        ->toBe(3)
        ->and($count(['cql' => 'silt_depth <> 0.5']))
        ->toBe(3)
        ->and($count(['cql' => 'title <> n0']))
        ->toBe(4 - $count(['cql' => 'title == n0']));
});

it('says that a field is no facet instead of counting nothing', function () {
    $this->search(['facets' => [['field' => 'waterway']]])->assertOk();
    expect(Artisan::call('brenvic:search', ['query' => 'gate', '--as' => 'reader', '--facets' => 'silt_depth,file_name', '--json' => true]))
        ->toBe(1)
        ->and(json_decode(Artisan::output(), true)['error'])
        ->toContain('File name is not counted as a facet');
});

it('finds what a cut of the text for the screen goes through', function () {
    $sentences = [];
    seeded(6);
    for ($i = 0; $i < 400; $i++) {
        $sentences[] = ucfirst("ba{$i}x")." met ca{$i}y by the sill and da{$i}z.".[' ', "\n", "\n\n", "\f"][mt_rand(0, 3)];
    }
    $whole = implode('', $sentences);
    $blankless = str_repeat('abc/', 1_480).'crossing-word/'.str_repeat('def/', 3_000);
    $this->filed($whole, 'long.txt', 'dredging_survey', ['document_date' => ['2019'], 'waterway' => ['tarn-sea'], 'silt_depth' => ['1']]);
    $this->filed($blankless, 'blankless.txt', 'dredging_survey', [
        'document_date' => ['2019'],
        'waterway' => ['tarn-sea'],
        'silt_depth' => ['1'],
    ]);
    $found = fn (string $words): int => $this->search(['words' => $words])->json('total');
    expect($found('text = "crossing word"'))->toBe(1)->and($found('text = crossing'))->toBe(1);
    for ($i = 0; $i < 399; $i += 7) {
        expect($found("text = \"ba{$i}x met ca{$i}y\""))
            ->toBe(1)
            ->and($found("text = ba{$i}x prox/unit=sentence text = da{$i}z"))
            ->toBe(1)
            ->and($found("text = da{$i}z prox/unit=sentence text = ba".($i + 1).'x'))
            ->toBe(0);
        $isParagraph = str_ends_with($sentences[$i], "\n\n") || str_ends_with($sentences[$i], "\f");
        expect($found("text = da{$i}z prox/unit=paragraph text = ba".($i + 1).'x'))->toBe(
            $isParagraph ? 0 : 1,
            json_encode($sentences[$i]),
        );
    }
});

it('leaves out of snippets what is the same in one document after the other', function () {
    foreach (['leaks at the mitre', 'sags on its heel', 'was painted', 'needs a new balance beam'] as $i => $what) {
        $text = "Sluice office of the Trust, sheet {$i}.\n\n".str_repeat('The chamber was drained. ', 14)."\n\nThe lower sluice {$what}.";
        $this->filed($text, "s{$i}.txt", 'dredging_survey', ['document_date' => ['2022'], 'waterway' => ['harbour']]);
    }
    $snippets = array_map(
        static fn (array $row): string => implode('', array_column($row['snippet'], 0)),
        $this->search(['words' => 'sluice', 'snippets' => true])->json('rows'),
    );
    expect($snippets)->toHaveCount(4)->each->toContain('The lower sluice');
    // With fewer rows than that nothing is known to be the same.
    $one = $this->search(['words' => 'sluice and painted', 'snippets' => true])->json('rows.0.snippet');
    expect(implode('', array_column($one, 0)))->toContain('Sluice office');
});
