<?php

declare(strict_types=1);

use Illuminate\Support\Facades\Route;

/** What each role may do besides looking: the abilities that routes ask for. */
const MAY = [
    'reader' => ['download'],
    'clerk' => ['download', 'file', 'change', 'fill', 'see-sight'],
    'librarian' => ['download', 'file', 'change', 'fill', 'design', 'hold', 'remove', 'redact', 'see-sight', 'explain', 'look-over', 'dispose'],
    'manager' => ['download', 'hold', 'remove', 'redact', 'destroy', 'see-sight', 'explain', 'look-over', 'dispose', 'oversee', 'see-health'],
    'admin' => ['download', 'administer', 'see-sight', 'explain', 'see-health'],
];

/** Addresses that need nobody signed in. */
const OPEN = ['api/session', 'api/session/code', 'api/session/factor', 'api/session/forgotten', 'api/{any}'];

/** Where everybody who is signed in may ask, and is answered by what they see. */
const FOR_ALL = [
    'acts',
    'cases',
    'counts',
    'deliveries',
    'desk',
    'documents',
    'document-acts',
    'dossiers',
    'holds',
    'links',
    'lists',
    'me',
    'notices',
    'outbox',
    'remote',
    'search',
    'searches',
    'session',
    'tasks',
    'vocabularies',
    'work-in-progress',
];

/** Where each route asks for an ability. */
const FOR_SOME = ['design', 'intake', 'office', 'oversight', 'removed', 'tables', 'value-acts'];

/** Acts on what is filed, which ask for an ability though they stand beside what everybody may ask. */
const ACTS = [
    'POST api/documents/{document}/cases',
    'POST api/dossiers',
    'PUT api/dossiers/{dossier}',
    'POST api/dossiers/{dossier}/documents',
    'POST api/dossiers/{dossier}/take-out',
    'POST api/documents/{document}/check-out',
    'POST api/documents/{document}/check-out/copy',
    'POST api/documents/{document}/check-in',
    'POST api/documents/{document}/versions/{version}/make-current',
    'POST api/documents/{document}/pages',
    'POST api/documents/{document}/split',
    'POST api/documents/{document}/loans',
    'POST api/documents/{document}/loans/{loan}/return',
    'POST api/documents/{document}/loans/{loan}/end',
    'PUT api/documents/{document}/template',
    'DELETE api/documents/{document}/template',
    'POST api/documents/{document}/template/new',
    'GET api/documents/{document}/redactions',
    'POST api/documents/{document}/redactions',
    'POST api/documents/{document}/redactions/find',
    'POST api/documents/{document}/redactions/take-back',
    'POST api/documents/{document}/redactions/check',
    'POST api/documents/{document}/redactions/again',
    'POST api/document-acts/transfer/plan',
    'POST api/document-acts/transfer',
    'POST api/document-acts/sheets/open',
    'POST api/document-acts/sheets/plan',
    'POST api/document-acts/sheets',
    'POST api/lists/{list}/hold',
    'POST api/documents/{document}/retention',
    'PUT api/dossiers/{dossier}/closed',
    'GET api/holds/people',
    'POST api/holds',
    'PUT api/holds/{hold}',
    'POST api/holds/{hold}/documents',
    'POST api/holds/{hold}/release',
    'POST api/holds/{hold}/end',
    'POST api/holds/{hold}/remind',
    'POST api/remote/{code}/take',
];

/**
 * Every route of the API, with a way to ask it.
 *
 * @return array<string, array{method: string, path: string, side: string, abilities: list<string>}> by method and address
 */
function routesOfApi(string $ref = 'D-00001-X'): array
{
    $routes = [];
    foreach (Route::getRoutes()->getRoutes() as $route) {
        if (! str_starts_with($route->uri(), 'api/') || in_array($route->uri(), OPEN, true)) {
            continue;
        }
        $path = (string) preg_replace(['/\{document[^}]*\}/', '/\{kind\}/', '/history\/export\.\{form\}/', '/\{form\}/', '/\{sha256\}/', '/\{\w+\}/'], [$ref, 'fields', 'history/export.csv', 'json', str_repeat('0', 64), '1'], $route->uri());
        $asked = array_filter($route->gatherMiddleware(), static fn (mixed $m): bool => is_string($m) && str_starts_with($m, 'can:'));
        foreach (array_diff($route->methods(), ['HEAD']) as $method) {
            $routes["{$method} {$route->uri()}"] = [
                'method' => $method,
                'path' => "/{$path}",
                'side' => explode('/', $route->uri())[1],
                'abilities' => array_values(array_map(static fn (string $m): string => substr($m, 4), $asked)),
            ];
        }
    }

    return $routes;
}

it('asks strangers to sign in, wherever they ask', function () {
    foreach (routesOfApi() as ['method' => $method, 'path' => $path]) {
        $this->json($method, $path)->assertUnauthorized()->assertJsonPath('error.code', 'sign_in');
    }
    expect(count(routesOfApi()))->toBeGreaterThan(150);
    $this->deleteJson('/api/session')->assertUnauthorized();
});

it('refuses every route to every role that has not the ability for it', function (string $who) {
    $ref = $this->filed('Text', 'a.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $refused = 0;
    foreach (routesOfApi($ref) as ['method' => $method, 'path' => $path, 'abilities' => $abilities]) {
        if (array_diff($abilities, MAY[$who]) !== []) {
            $this->as($who)->json($method, $path)->assertForbidden()->assertJsonPath('error.code', 'forbidden');
            $refused++;
        }
    }
    expect($refused)->toBeGreaterThan(5);
})->with(array_keys(MAY));

it('has no route that changes what is filed, the design, or people without asking for an ability', function () {
    $routes = routesOfApi();
    foreach ($routes as $route => ['side' => $side, 'abilities' => $abilities]) {
        expect($side)->toBeIn([...FOR_ALL, ...FOR_SOME], "{$route} is of a side that this test does not know");
        if ($route !== 'GET api/design' && (in_array($side, FOR_SOME, true) || in_array($route, ACTS, true))) {
            expect($abilities)->not->toBe([], $route);
        }
    }
    expect(array_diff(ACTS, array_keys($routes)))->toBe([]);
});

it('tells nothing of a library to those who may not see it', function () {
    $ref = $this->filed(
        'The secret otter clause',
        'otter.txt',
        'byelaw',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    foreach (['reader', 'clerk'] as $who) {
        $this->as($who);
        foreach (['', '/hits', '/pages/1', '/file'] as $rest) {
            $this->getJson("/api/documents/{$ref}{$rest}")->assertNotFound();
        }
        $this->putJson("/api/documents/{$ref}", ['lock_version' => 1])->assertNotFound();
        $found = $this->search(['words' => 'otter'], $who)->assertOk();
        expect($found->json('total'))->toBe(0)->and($found->json('ledger.0.alone'))->toBe(0);
        $shown = json_encode([$found->json(), $this->as($who)->getJson('/api/design')->json(), $this->getJson('/api/desk')->json()]);
        expect($shown)->not->toContain('Board and byelaws')->not->toContain('byelaw')->not->toContain('Legal advice');
    }
    expect($this->search(['words' => 'otter'])->json('total'))->toBe(1);
});

it('keeps sensitive values from readers, in searches and in sheets', function () {
    $ref = $this->filed(
        'A permit',
        'permit.txt',
        'mooring_permit',
        ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Marigold Ash'], 'holder' => ['Osric Vane']],
        'harbour',
    );
    // Covered for whoever may see it too, until uncovered on record.
    expect(
        $this->as('clerk')
            ->getJson("/api/documents/{$ref}")
            ->json('values.holder.0'),
    )
        ->toBe(['value' => '', 'label' => '•••••', 'covered' => true])
        ->and($this->postJson("/api/documents/{$ref}/reveal", ['field' => 'holder'])->json('values.holder.0.value'))
        ->toBe('Osric Vane')
        ->and($this->getJson("/api/documents/{$ref}/history")->json('history.0'))
        ->toMatchArray(['act' => 'revealed', 'by' => 'Fenwick Dale'])
        ->and($this->search(['words' => 'osric', 'columns' => ['holder']], 'librarian')->json('rows'))
        ->toBe([])
        ->and($this->search(['words' => 'vessel = marigold', 'columns' => ['holder']], 'clerk')->json('rows.0.cells.holder'))
        ->toBe('•••••')
        ->and($this->search(['words' => 'holder = osric'], 'clerk')->json('total'))
        ->toBe(1);
    expect(
        $this->as('reader')
            ->getJson("/api/documents/{$ref}")
            ->json('values'),
    )
        ->not->toHaveKey('holder')
        ->and($this->postJson("/api/documents/{$ref}/reveal")->json('values'))
        ->toBe([]);
    $this->postJson("/api/documents/{$ref}/reveal", ['field' => 'holder'])->assertNotFound();
    $this->getJson("/api/documents/{$ref}/history")->assertForbidden();
    expect($this->search(['words' => 'osric'], 'reader')->json('total'))->toBe(0);
    $this->search(['words' => 'holder = osric'], 'reader')
        ->assertUnprocessable()
        ->assertJsonPath('error.code', 'query');
});

it('lets a reader look at a document and not change it', function () {
    $ref = $this->filed('Text', 'a.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $this->as('reader')
        ->getJson("/api/documents/{$ref}")
        ->assertOk()
        ->assertJsonPath('may_change', false);
    $this->putJson("/api/documents/{$ref}", ['type' => null, 'values' => [], 'lock_version' => 1])->assertForbidden();
});

it('keeps what waits in one person’s intake from everybody else', function () {
    $ref = $this->upload('Not yet filed', 'draft.txt')->json('ref');
    $this->as('librarian')
        ->getJson("/api/documents/{$ref}")
        ->assertNotFound();
    expect($this->getJson('/api/intake')->json('documents'))->toBe([]);
    $this->postJson('/api/intake/discard', ['documents' => [$ref]])->assertOk();
    expect($this->as('clerk')->getJson('/api/intake')->json('documents'))->toHaveCount(1);
});

it('signs in and out, and slows guessing down', function () {
    $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'wrong'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.sign_in', 'The sign-in name or the password is wrong. Try again.');
    $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'tarnwick'])
        ->assertOk()
        ->assertJsonPath('user.may.file', false);
    $this->deleteJson('/api/session')->assertNoContent();
    $this->getJson('/api/session')->assertJsonPath('user', null);
    for ($i = 0; $i < 12; $i++) {
        $last = $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'wrong']);
    }
    $last->assertTooManyRequests()->assertJsonPath('error.code', 'too_many');
});

/** An access rule: documents of the harbour that mention an incident are for the harbour office. */
const HARBOUR_RULE = [
    'code' => 'incidents',
    'name' => 'Incidents',
    'criterion' => 'severity == critical',
    'acts' => ['see'],
    'groups' => ['Harbour office'],
];

it('keeps documents by a value to some groups, in every way they could show', function () {
    $incident = fn (string $name, string $severity): string => $this->filed(
        'the otter ran aground',
        $name,
        'incident_report',
        ['document_date' => ['2024'], 'severity' => [$severity], 'vessel' => ["Vessel {$severity}"]],
        'harbour',
    );
    [$minor, $critical] = [$incident('minor.txt', 'minor'), $incident('critical.txt', 'critical')];
    $this->as('librarian')
        ->postJson('/api/design/access', HARBOUR_RULE)
        ->assertCreated();
    $loses = collect($this->effects())->where('effect', 'loses');
    expect($loses->pluck('documents')->unique()->all())
        ->toBe([1])
        ->and($loses->first()['rows'][0]['ref'])
        ->toBe($critical);
    $this->publish()->assertCreated();
    foreach (['reader', 'clerk', 'librarian'] as $who) {
        $found = $this->search(['words' => 'otter', 'facets' => []], $who);
        expect($found->json('total'))
            ->toBe(1)
            ->and($found->json('visible'))
            ->toBe(1)
            ->and(json_encode($found->json()))
            ->not->toContain('Vessel critical')
            ->and($this->search(['words' => 'severity == critical'], $who)->json('ledger.0.alone'))
            ->toBe(0);
        $this->getJson("/api/documents/{$critical}")->assertNotFound();
        $this->getJson("/api/documents/{$critical}/pages/1")->assertNotFound();
        $this->get("/api/documents/{$critical}/file")->assertNotFound();
        expect(json_encode($this->getJson('/api/desk')->json()))->not->toContain($critical)->toContain($minor);
    }
    $person = App\Models\User::query()->where('sign_in', 'reader')->firstOrFail();
    $this->as('librarian')
        ->putJson("/api/design/people/{$person->id}", ['groups' => ['Everyone', 'Harbour office']])
        ->assertOk();
    app()->forgetScopedInstances();
    expect($this->search(['words' => 'otter'], 'reader')->json('total'))->toBe(2);
    // Looking as somebody shows what both may see, never more.
    app()->forgetScopedInstances();
    expect($this->search(['words' => 'otter', 'as' => 'reader'])->json('total'))->toBe(1);
    $this->as('librarian')
        ->getJson("/api/design/people/{$person->id}/sight")
        ->assertOk()
        ->assertJsonPath('sees', 1)
        ->assertJsonPath('hidden', 0);
    app()->forgetScopedInstances();
    $this->search(['words' => 'otter', 'as' => 'librarian'], 'reader')->assertForbidden();
});

it('keeps filing and changing to some groups', function () {
    $this->as('librarian')
        ->postJson('/api/design/access', [
            ...HARBOUR_RULE,
            'acts' => ['file', 'change'],
            'criterion' => 'severity == critical or severity == serious',
        ])
        ->assertCreated();
    $type = $this->drafted('types', 'pilotage_note');
    $this->putJson('/api/design/types/pilotage_note', [...$type, 'filers' => ['Harbour office']])->assertOk();
    $this->publish()->assertCreated();
    $ref = $this->filed('x', 'x.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor']], 'harbour');
    $this->as('clerk')->upload('y', 'y.txt', 'harbour');
    $waiting = $this->getJson('/api/intake')->json('documents.0.ref');
    $this->postJson('/api/intake/file', [
        'documents' => [$waiting],
        'type' => 'incident_report',
        'values' => ['document_date' => ['2024'], 'severity' => ['critical']],
    ])
        ->assertUnprocessable()
        ->assertJsonPath('error.code', 'refused');
    $this->postJson('/api/intake/file', ['documents' => [$waiting], 'type' => 'pilotage_note', 'values' => ['document_date' => ['2024']]])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.type', 'Documents of the type “Pilotage note” are filed by Harbour office.');
    expect($this->getJson('/api/intake')->json('documents'))
        ->toHaveCount(1)
        ->and($this->search(['words' => 'type == incident_report'])->json('total'))
        ->toBe(1);
    $this->as('clerk')
        ->putJson("/api/documents/{$ref}", [
            'type' => 'incident_report',
            'values' => ['document_date' => ['2024'], 'severity' => ['serious']],
            'lock_version' => 1,
        ])
        ->assertUnprocessable();
    $this->as('clerk')
        ->getJson("/api/documents/{$ref}")
        ->assertJsonPath('may_change', true)
        ->assertJsonPath('values.severity.0.value', 'minor');
});

it('offers views to their groups, and none that would show nothing', function () {
    $names = fn (string $who): array => collect($this->as($who)->getJson('/api/design')->json('views'))
        ->pluck('code')
        ->all();
    expect($names('reader'))->toBe([]);
    $this->filed('x', 'x.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor']], 'harbour');
    $this->filed('x', 'y.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    app()->forgetScopedInstances();
    expect($names('reader'))
        ->toBe(['everything', 'incidents'])
        ->and($names('manager'))
        ->toContain('board');
    $view = [...$this->drafted('views', 'incidents'), 'name' => 'My incidents'];
    $this->as('reader')->putJson('/api/me/views/my-incidents', $view)->assertOk();
    $this->putJson('/api/me/views/my-incidents', [...$view, 'columns' => ['nothing']])->assertUnprocessable();
    $this->putJson('/api/me/preferences', ['default_view' => 'my-incidents'])->assertOk();
    expect($names('reader'))
        ->toContain('my-incidents')
        ->and($names('manager'))
        ->not->toContain('my-incidents')
        ->and($this->as('reader')->getJson('/api/design')->json('default_view'))
        ->toBe('my-incidents');
    $this->deleteJson('/api/me/views/my-incidents')->assertNoContent();
    expect($names('reader'))->not->toContain('my-incidents');
});

it('keeps groups that the design names', function () {
    $id = App\Models\Group::query()->where('name', 'Board office')->value('id');
    expect(
        $this->as('librarian')
            ->deleteJson("/api/design/people/groups/{$id}")
            ->assertUnprocessable()
            ->json('error.message'),
    )->toContain('still uses this group');
    $this->postJson('/api/design/people/groups', ['name' => 'Volunteers'])->assertOk();
    $this->postJson('/api/design/people/groups', ['name' => 'Volunteers'])->assertUnprocessable();
    $this->deleteJson('/api/design/people/groups/'.App\Models\Group::query()->where('name', 'Volunteers')->value('id'))->assertOk();
});
