<?php

declare(strict_types=1);

use App\History\Act;
use App\History\History;
use Illuminate\Support\Arr;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;

const OTTERS = [
    'words' => 'otter',
    'any' => false,
    'criteria' => [['cql' => 'severity == serious', 'negated' => true, 'on' => true]],
    'view' => '',
    'where' => [],
    'reach' => 'as_written',
];

it('keeps, shares, changes and watches searches, counting exactly what is new', function () {
    $incident = fn (string $name, string $severity): string => $this->filed(
        'the otter ran aground',
        $name,
        'incident_report',
        ['document_date' => ['2024'], 'severity' => [$severity]],
        'harbour',
    );
    $first = $incident('a.txt', 'minor');
    $made = $this->as('reader')
        ->postJson('/api/searches', ['name' => 'Otters', 'search' => OTTERS, 'groups' => ['Everyone']])
        ->assertCreated()
        ->json('searches.0');
    expect($made)->toMatchArray(['name' => 'Otters', 'total' => 1, 'watched' => false, 'own' => true, 'search' => Arr::except(OTTERS, 'reach')]);
    $id = $made['id'];
    $this->postJson("/api/searches/{$id}/look")->assertJsonPath('searches.0.new', 0);
    $serious = $incident('b.txt', 'serious');
    $incident('c.txt', 'moderate');
    expect($this->as('reader')->getJson('/api/searches')->json('searches.0.new'))->toBe(1);
    // What fits since it was changed is new too.
    $this->as('clerk')
        ->putJson("/api/documents/{$serious}", [
            'type' => 'incident_report',
            'values' => ['document_date' => ['2024'], 'severity' => ['minor']],
            'lock_version' => 1,
        ])
        ->assertOk();
    expect($this->as('reader')->getJson('/api/searches')->json('searches.0'))
        ->toMatchArray(['new' => 2, 'total' => 3])
        ->and($this->getJson('/api/desk')->json('searches.0.new'))
        ->toBe(2);
    $this->postJson("/api/searches/{$id}/look")->assertJsonPath('searches.0.new', 0);
    // Groups have it as it is, with their own count; only its owner changes it.
    expect($this->as('clerk')->getJson('/api/searches')->json('searches.0'))->toMatchArray([
        'own' => false,
        'by' => 'Isla Thorne',
        'watched' => false,
    ]);
    $this->putJson("/api/searches/{$id}", ['name' => 'Mine', 'search' => OTTERS, 'lock_version' => 1])->assertNotFound();
    $this->deleteJson("/api/searches/{$id}")->assertNotFound();
    $this->as('reader')
        ->putJson("/api/searches/{$id}", [
            'name' => 'All otters',
            'search' => [...OTTERS, 'criteria' => []],
            'groups' => [],
            'lock_version' => 1,
        ])
        ->assertOk()
        ->assertJsonPath('searches.0.name', 'All otters');
    $this->putJson("/api/searches/{$id}", ['name' => 'Late', 'search' => OTTERS, 'lock_version' => 1])->assertConflict();
    expect($this->as('clerk')->getJson('/api/searches')->json('searches'))->toBe([]);
    $this->as('reader')
        ->deleteJson("/api/searches/{$id}/look")
        ->assertJsonPath('searches.0.watched', false);
    $this->deleteJson("/api/searches/{$id}")->assertJsonPath('searches', []);
    $this->postJson('/api/searches', ['name' => 'Broken', 'search' => ['words' => 'title = (otter']])->assertUnprocessable();
    expect($first)->not->toBe('');
});

it('keeps every place that a search can look in, and which remote repositories it asks', function () {
    foreach (
        [['where' => ['title', 'values', 'text', 'comment', 'path', 'earlier']], ['outside' => ['survey_exchange']], ['outside' => []]] as $i => $more
    ) {
        $search = [...OTTERS, ...$more];
        $this->as('reader')
            ->postJson('/api/search', ['words' => 'otter', 'where' => $search['where']])
            ->assertOk();
        $kept = collect(
            $this->postJson('/api/searches', ['name' => "Search {$i}", 'search' => $search])
                ->assertCreated()
                ->json('searches'),
        )->firstWhere('name', "Search {$i}");
        expect($kept['search'])->toEqual(Arr::except($search, 'reach'));
        $this->postJson('/api/searches/recent', ['search' => $search, 'total' => 0])->assertOk();
    }
});

it('refuses a search that is none, wherever one is sent', function (array $search) {
    $this->as('clerk');
    $list = $this->postJson('/api/lists', ['name' => 'Mine'])->json('id');
    foreach (
        [
            ['/api/searches', ['name' => 'x']],
            ["/api/lists/{$list}/documents", []],
            ['/api/value-acts/plan', ['field' => 'severity', 'how' => 'clear', 'values' => []]],
        ] as [$path, $more]
    ) {
        $this->postJson($path, [...$more, 'search' => $search])->assertUnprocessable();
    }
})->with([
    [['criteria' => 'x']],
    [['criteria' => [['cql' => ['a']]]]],
    [['words' => ['a']]],
    [['words' => 'title = (otter']],
    [['where' => ['nowhere']]],
]);

it('remembers searches made lately, once each and not for ever', function () {
    foreach (range(1, 34) as $i) {
        $this->travel($i)->seconds();
        $this->as('reader')
            ->postJson('/api/searches/recent', ['search' => [...OTTERS, 'words' => "otter {$i}"], 'total' => $i])
            ->assertOk();
    }
    $recent = $this->postJson('/api/searches/recent', ['search' => [...OTTERS, 'words' => 'otter 34'], 'total' => 5])->json('recent');
    expect($recent)
        ->toHaveCount(30)
        ->and($recent[0])
        ->toMatchArray(['total' => 5])
        ->and($this->as('clerk')->getJson('/api/searches')->json('recent'))
        ->toBe([])
        ->and(
            $this->as('reader')
                ->postJson('/api/search/complete', ['typed' => 'otter 3'])
                ->json('searches'),
        )
        ->toHaveCount(4);
});

it('completes fields and values with counts of what the person may see', function () {
    $this->filed('x', 'a.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['basin-upper']]);
    $this->filed(
        'x',
        'b.txt',
        'mooring_permit',
        ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Upper Hand'], 'holder' => ['Upton Secret']],
        'harbour',
    );
    $this->filed(
        'x',
        'c.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential'], 'author' => ['Upright Hidden']],
        'board',
        'librarian',
    );
    $of = fn (string $typed, string $who = 'reader'): array => $this->as($who)
        ->postJson('/api/search/complete', ['typed' => $typed])
        ->assertOk()
        ->json();
    expect(array_map(static fn (array $v): array => [$v['field'], $v['label'], $v['count'], $v['cql']], $of('gate up')['values']))
        ->toBe([['vessel', 'Upper Hand', 1, 'vessel == "Upper Hand"'], ['waterway', 'Upper basin', 1, 'waterway == basin-upper']])
        ->and($of('gate up')['from'])
        ->toBe(5)
        ->and($of('upper ba')['values'][0]['label'])
        ->toBe('Upper basin')
        ->and(array_column($of('wat')['fields'], 'code'))
        ->toBe(['waterway'])
        ->and($of('waterway = upp')['values'])
        ->toHaveCount(1)
        ->and($of('u')['values'])
        ->toBe([])
        ->and(json_encode($of('up', 'librarian')))
        ->toContain('Upright Hidden');
});

it('joins lines to groups and takes them apart again', function () {
    $lines = [
        ['cql' => 'severity == minor', 'negated' => false, 'on' => true],
        ['cql' => 'vessel = otter', 'negated' => true, 'on' => true],
    ];
    foreach (['any', 'all', 'none'] as $how) {
        $group = $this->as('reader')
            ->postJson('/api/search/group', ['how' => $how, 'criteria' => $lines])
            ->assertOk()
            ->json();
        expect($group['negated'])->toBe($how === 'none');
        $apart = $this->postJson('/api/search/apart', ['cql' => $group['cql'], 'negated' => false])->json('criteria');
        expect(array_map(static fn (array $l): array => [$l['cql'], $l['negated']], $apart))->toBe(
            [['severity == minor', false], ['vessel = otter', true]],
            $how,
        );
    }
    $this->filed('x', 'a.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor'], 'vessel' => ['Otter']], 'harbour');
    $this->filed(
        'x',
        'b.txt',
        'incident_report',
        ['document_date' => ['2024'], 'severity' => ['serious'], 'vessel' => ['Heron']],
        'harbour',
    );
    $any = $this->as('reader')
        ->postJson('/api/search/group', ['how' => 'any', 'criteria' => $lines])
        ->json();
    $line = $this->search(['criteria' => [$any]], 'reader')
        ->assertJsonPath('total', 2)
        ->json('ledger.0');
    expect($line['how'])
        ->toBe('any')
        ->and(array_map(static fn (array $p): array => [$p['value'], $p['negated'], $p['alone']], $line['parts']))
        ->toBe([['Minor', false, 1], ['otter', true, 1]]);
});

it('writes all rows of a result as CSV and as a spreadsheet, covered as shown', function () {
    foreach (range(1, 3) as $i) {
        $this->filed(
            'x',
            "{$i}.txt",
            'mooring_permit',
            ['permit_number' => ["MP-2023-000{$i}"], 'vessel' => ['=Formula "ash"'], 'holder' => ['Osric Vane']],
            'harbour',
        );
    }
    $search = [
        'words' => 'type == mooring_permit',
        'columns' => ['vessel', 'holder', 'permit_number'],
        'sort' => [['field' => 'permit_number', 'descending' => true]],
        'formats' => ['permit_number' => ['mask' => 'last4']],
    ];
    $csv = $this->as('clerk')
        ->postJson('/api/search/export', [...$search, 'format' => 'csv', 'spreadsheet' => true])
        ->assertOk()
        ->streamedContent();
    // To programs values are given as they are.
    expect(
        $this->postJson('/api/search/export', [...$search, 'format' => 'csv'])
            ->assertOk()
            ->streamedContent(),
    )
        ->toContain(',"=Formula ""ash""",')
        ->not->toContain("'=");
    $rows = array_map(static fn (string $line): array => str_getcsv($line, escape: ''), explode("\r\n", trim(substr($csv, 3))));
    expect($rows[0])
        ->toBe(['Reference', 'Title', 'Vessel', 'Holder', 'Permit number'])
        ->and($rows)
        ->toHaveCount(4)
        ->and(array_slice($rows[1], 2))
        ->toBe(["'=Formula \"ash\"", '•••••', '•••••0003'])
        ->and($csv)
        ->not->toContain('Osric');
    $file = $this->postJson('/api/search/export', [...$search, 'format' => 'ods'])
        ->assertOk()
        ->getFile()
        ->getPathname();
    $zip = new ZipArchive();
    expect($zip->open($file))->toBeTrue()->and($zip->getNameIndex(0))->toBe('mimetype');
    $content = simplexml_load_string((string) $zip->getFromName('content.xml'));
    expect($content->xpath('//*[local-name()="table-row"]'))
        ->toHaveCount(4)
        ->and((string) $zip->getFromName('content.xml'))
        ->not->toContain('Osric');
    expect(DB::table('history')->where('act', Act::Exported->value)->count())->toBe(3);
});

it('keeps comments, finds documents by them, and lets only their authors take them back', function () {
    $ref = $this->filed('x', 'a.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $comment = $this->as('reader')
        ->postJson("/api/documents/{$ref}/comments", ['text' => 'Compare with the heron file'])
        ->assertCreated()
        ->json('comments.0');
    expect($comment)
        ->toMatchArray(['by' => 'Isla Thorne', 'own' => true])
        ->and($this->search(['words' => 'comment = heron'])->json('rows.0.ref'))
        ->toBe($ref)
        ->and($this->search(['words' => 'heron'])->json('total'))
        ->toBe(1);
    // Where it was found is said, and shown.
    $row = fn (array $search): array => $this->search($search)->json('rows.0');
    expect($row(['words' => 'heron']))
        ->toMatchArray(['found' => ['Comment'], 'snippet_comment' => true])
        ->and($row(['words' => 'heron'])['snippet'])
        ->toContain(['heron', true])
        ->and($row(['words' => 'comment = heron'])['found'])
        ->toBe(['Comment'])
        ->and($row(['words' => 'heron', 'where' => ['comment']])['found'])
        ->toBe(['Comment'])
        ->and($row(['words' => 'heron a.txt', 'any' => true, 'where' => ['title']])['found'])
        ->toBe([]);
    $this->as('clerk')
        ->deleteJson("/api/documents/{$ref}/comments/{$comment['id']}")
        ->assertNotFound();
    $this->postJson("/api/documents/{$ref}/comments", ['text' => ' '])->assertUnprocessable();
    $this->as('reader')
        ->deleteJson("/api/documents/{$ref}/comments/{$comment['id']}")
        ->assertOk()
        ->assertJsonPath('comments', []);
    expect($this->search(['words' => 'heron'])->json('total'))->toBe(0);
});

it('does not call new what somebody saw before they lost sight of it for a while', function () {
    $incident = fn (string $name): string => $this->filed(
        'the otter ran aground',
        $name,
        'incident_report',
        ['document_date' => ['2024'], 'severity' => ['minor']],
        'harbour',
    );
    $incident('a.txt');
    $incident('b.txt');
    $saved = fn (): array => $this->as('reader')->getJson('/api/searches')->json('searches.0');
    $id = $this->as('reader')->postJson('/api/searches', ['name' => 'Otters', 'search' => OTTERS, 'groups' => []])->json('searches.0.id');
    $this->postJson("/api/searches/{$id}/look")->assertJsonPath('searches.0.new', 0);
    $groups = $this->as('librarian')->drafted('libraries', 'harbour')['groups'];
    $give = function (array $groups): void {
        $this->as('librarian')
            ->putJson('/api/design/libraries/harbour', [...$this->drafted('libraries', 'harbour'), 'groups' => $groups])
            ->assertOk();
        $this->publish()->assertCreated();
        // Every request has controllers of its own; a test’s routes keep theirs.
        foreach (Route::getRoutes()->getRoutes() as $route) {
            $route->flushController();
        }
    };
    $give(array_values(array_filter($groups, static fn (array $g): bool => $g['group'] === 'Records office')));
    expect($saved())->toMatchArray(['total' => 0, 'new' => 0]);
    $this->postJson("/api/searches/{$id}/look")->assertOk();
    $give($groups);
    expect($saved())->toMatchArray(['total' => 2, 'new' => 0]);
    $incident('c.txt');
    expect($saved())->toMatchArray(['total' => 3, 'new' => 1]);
});

it('pins documents to the desk of one person', function () {
    $ref = $this->filed('x', 'a.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $this->as('reader')
        ->putJson("/api/documents/{$ref}/pin")
        ->assertOk();
    expect($this->getJson('/api/desk')->json('pinned.0.ref'))
        ->toBe($ref)
        ->and($this->getJson("/api/documents/{$ref}")->json('pinned'))
        ->toBeTrue()
        ->and($this->as('clerk')->getJson('/api/desk')->json('pinned'))
        ->toBe([]);
    $this->as('reader')
        ->deleteJson("/api/documents/{$ref}/pin")
        ->assertOk();
    expect($this->getJson('/api/desk')->json('pinned'))->toBe([]);
});

it('keeps a history that shows when it was touched', function () {
    $ref = $this->filed(
        'x',
        'a.txt',
        'mooring_permit',
        ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Juniper'], 'holder' => ['Osric Vane']],
        'harbour',
    );
    $this->as('clerk')->getJson("/api/documents/{$ref}");
    $this->getJson("/api/documents/{$ref}");
    $this->putJson("/api/documents/{$ref}", [
        'type' => 'mooring_permit',
        'values' => ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Fathom'], 'holder' => ['Ada Lorne']],
        'lock_version' => 1,
    ])->assertOk();
    $history = $this->getJson("/api/documents/{$ref}/history")->json('history');
    expect(array_column($history, 'act'))
        ->toBe(['changed', 'viewed', 'filed'])
        ->and($history[0]['changes'])
        ->toBe([
            ['field' => 'Vessel', 'before' => 'Juniper', 'after' => 'Fathom'],
            ['field' => 'Holder', 'before' => '•••••', 'after' => '•••••'],
        ]);
    expect(History::verify())->toBe(['entries' => 3, 'broken' => null, 'cut' => null]);
    $this->artisan('brenvic:history:verify')->expectsOutputToContain('All 3 entries hold')->assertSuccessful();
    $second = DB::table('history')->orderBy('id')->skip(1)->value('id');
    DB::table('history')
        ->where('id', $second)
        ->update(['user_id' => 1]);
    expect(History::verify()['broken'])->toBe($second);
    $this->artisan('brenvic:history:verify')->assertFailed();
    DB::table('history')->where('id', $second)->delete();
    expect(History::verify()['broken'])->toBe($second + 1);
});
