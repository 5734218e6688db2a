<?php

declare(strict_types=1);

/** What is done to one document's file; these need one that is there. */
const FOR_WORKING_ON_ONE = [
    ['POST', 'documents/D-00001-X/check-out'], ['POST', 'documents/D-00001-X/check-out/copy'], ['POST', 'documents/D-00001-X/check-in'], ['POST', 'documents/D-00001-X/versions/1/make-current'],
    ['POST', 'documents/D-00001-X/loans'], ['POST', 'documents/D-00001-X/loans/1/return'], ['POST', 'documents/D-00001-X/loans/1/end'],
    ['POST', 'documents/D-00001-X/pages'], ['POST', 'documents/D-00001-X/split'],
    ['PUT', 'documents/D-00001-X/template'], ['DELETE', 'documents/D-00001-X/template'], ['POST', 'documents/D-00001-X/template/new'],
];

const FOR_FILING = [
    ['POST', 'document-acts/transfer/plan'], ['POST', 'document-acts/transfer'], ['POST', 'document-acts/sheets/open'], ['POST', 'document-acts/sheets/plan'], ['POST', 'document-acts/sheets'],
    ['POST', 'dossiers'], ['PUT', 'dossiers/DS-00001-X'], ['POST', 'dossiers/DS-00001-X/documents'], ['POST', 'dossiers/DS-00001-X/take-out'], ['POST', 'tables/look-up'],
    ['POST', 'value-acts'], ['POST', 'value-acts/plan'], ['GET', 'value-acts/1'], ['POST', 'value-acts/1/undo'],
    ['POST', 'remote/survey_exchange/take'],
    ['GET', 'intake'], ['POST', 'intake'], ['POST', 'intake/file'], ['POST', 'intake/discard'], ['POST', 'intake/restore']];

const FOR_DESIGN = [
    ['GET', 'design/draft'], ['GET', 'design/draft/effects'], ['POST', 'design/draft/discard'], ['POST', 'design/draft/publish'], ['POST', 'design/advice'],
    ['GET', 'design/versions'], ['GET', 'design/versions/1'], ['POST', 'design/versions/1/restore'], ['GET', 'design/file'], ['POST', 'design/file'],
    ['POST', 'design/repositories'], ['PUT', 'design/repositories/operations'], ['DELETE', 'design/repositories/operations'],
    ['POST', 'design/libraries'], ['PUT', 'design/libraries/harbour'], ['DELETE', 'design/libraries/harbour'],
    ['POST', 'design/vocabularies'], ['PUT', 'design/vocabularies/condition'], ['DELETE', 'design/vocabularies/condition'],
    ['POST', 'design/fields'], ['PUT', 'design/fields/vessel'], ['DELETE', 'design/fields/vessel'],
    ['POST', 'design/types'], ['PUT', 'design/types/tender'], ['DELETE', 'design/types/tender'],
    ['GET', 'design/views/permits'], ['POST', 'design/merge-fields'], ['GET', 'design/work'], ['POST', 'design/work/1/stop'], ['POST', 'design/work/1/go-on'],
    ['GET', 'design/people'], ['POST', 'design/people/groups'], ['DELETE', 'design/people/groups/1'], ['PUT', 'design/people/1'], ['GET', 'design/people/1/sight'],
    ['GET', 'design/vocabularies/subject/counts'], ['GET', 'design/vocabularies/subject/doubles'], ['GET', 'design/vocabularies/subject/file'], ['POST', 'design/vocabularies/subject/file'],
    ['POST', 'design/remote/look'], ['POST', 'design/tables/read'], ['GET', 'design/tables/suppliers/state'],
    ['POST', 'design/tables'], ['PUT', 'design/tables/suppliers'], ['DELETE', 'design/tables/suppliers'], ['POST', 'design/dossier_kinds'], ['PUT', 'design/dossier_kinds/stoppage'], ['DELETE', 'design/dossier_kinds/stoppage'],
    ['POST', 'design/forms'], ['PUT', 'design/forms/permit_desk'], ['DELETE', 'design/forms/permit_desk'], ['POST', 'design/access'], ['PUT', 'design/access/confidential'], ['DELETE', 'design/access/confidential'],
    ['POST', 'design/views'], ['PUT', 'design/views/permits'], ['DELETE', 'design/views/permits'],
];

const FOR_REMOVING = [['GET', 'removed'], ['POST', 'removed'], ['POST', 'removed/restore'], ['POST', 'removed/destroy']];

const EVERY_ROUTE = [
    ['DELETE', 'session'], ['GET', 'acts'], ['POST', 'document-acts/1/undo'], ['GET', 'desk'], ['GET', 'dossiers'], ['GET', 'dossiers/DS-00001-X'], ['GET', 'dossiers/DS-00001-X/comments'], ['POST', 'dossiers/DS-00001-X/comments'], ['DELETE', 'dossiers/DS-00001-X/comments/1'], ['PUT', 'me/views/my-view'], ['DELETE', 'me/views/my-view'], ['PUT', 'me/preferences'],
    ['POST', 'remote/survey_exchange/search'], ['GET', 'remote/survey_exchange/file'],
    ['POST', 'search/complete'], ['POST', 'search/group'], ['POST', 'search/apart'], ['POST', 'search/export'], ['GET', 'searches'], ['POST', 'searches'], ['PUT', 'searches/1'], ['DELETE', 'searches/1'], ['POST', 'searches/1/look'], ['DELETE', 'searches/1/look'], ['POST', 'searches/recent'],
    ['GET', 'lists'], ['POST', 'lists'], ['GET', 'lists/1'], ['PUT', 'lists/1'], ['DELETE', 'lists/1'], ['POST', 'lists/1/restore'], ['POST', 'lists/1/documents'], ['POST', 'lists/1/take-out'], ['PUT', 'lists/1/documents/D-00001-X'], ['POST', 'lists/1/freeze'], ['DELETE', 'lists/1/search'], ['GET', 'lists/1/check'], ['POST', 'lists/1/hold'], ['POST', 'lists/1/deliveries'],
    ['GET', 'deliveries/1'], ['POST', 'deliveries/1/cancel'], ['GET', 'deliveries/1/file'], ['POST', 'deliveries/1/links'], ['POST', 'documents/D-00001-X/links'], ['GET', 'links'], ['GET', 'outbox'], ['POST', 'links/1/revoke'],
    ['GET', 'documents/D-00001-X/annotations'], ['POST', 'documents/D-00001-X/annotations'], ['POST', 'documents/D-00001-X/annotations/take-in'], ['PUT', 'documents/D-00001-X/annotations/1'], ['DELETE', 'documents/D-00001-X/annotations/1'], ['POST', 'documents/D-00001-X/annotations/1/restore'],
    ['GET', 'documents/D-00001-X/redactions'], ['POST', 'documents/D-00001-X/redactions'], ['POST', 'documents/D-00001-X/redactions/find'], ['POST', 'documents/D-00001-X/redactions/take-back'], ['POST', 'documents/D-00001-X/redactions/check'],
    ['GET', 'documents/D-00001-X/versions'], ['GET', 'documents/D-00001-X/versions/compare'], ['GET', 'work-in-progress'], ['GET', 'documents/D-00001-X/loans'], ['DELETE', 'documents/D-00001-X/check-out'],
    ['POST', 'documents/D-00001-X/reveal'], ['GET', 'documents/D-00001-X/history'], ['PUT', 'documents/D-00001-X/pin'], ['DELETE', 'documents/D-00001-X/pin'], ['GET', 'documents/D-00001-X/comments'], ['POST', 'documents/D-00001-X/comments'], ['DELETE', 'documents/D-00001-X/comments/1'], ['GET', 'design'], ['POST', 'search'], ['POST', 'search/groups'], ['POST', 'search/attached/D-00001-X'], ['POST', 'search/criterion'],
    ['GET', 'documents/D-00001-X'], ['PUT', 'documents/D-00001-X'], ['GET', 'documents/D-00001-X/hits'], ['GET', 'documents/D-00001-X/pages/1'], ['GET', 'documents/D-00001-X/file'],
    ...FOR_WORKING_ON_ONE, ...FOR_FILING, ...FOR_REMOVING, ...FOR_DESIGN,
];

it('asks strangers to sign in', function (string $method, string $path) {
    $this->json($method, "/api/{$path}")->assertUnauthorized()->assertJsonPath('error.code', 'sign_in');
})->with(EVERY_ROUTE);

it('lets only those who file into intake', function (string $method, string $path) {
    foreach (['reader', 'manager'] as $who) {
        $this->as($who)->json($method, "/api/{$path}")->assertForbidden()->assertJsonPath('error.code', 'forbidden');
    }
})->with(FOR_FILING);

it('lets only those who file work on a document', function (string $method, string $path) {
    $ref = $this->filed('Text', 'a.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    foreach (['reader', 'manager'] as $who) {
        $this->as($who)->json($method, '/api/'.str_replace('D-00001-X', $ref, $path))->assertForbidden();
    }
})->with(FOR_WORKING_ON_ONE);

it('lets only those who answer for it redact', function (string $method, string $path) {
    $ref = $this->filed('Text', 'a.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    foreach (['reader', 'clerk'] as $who) {
        $this->as($who)->json($method, "/api/documents/{$ref}/redactions{$path}")->assertForbidden();
    }
})->with([['GET', ''], ['POST', ''], ['POST', '/find'], ['POST', '/take-back'], ['POST', '/check']]);

it('lets only those who answer for it remove and destroy', function (string $method, string $path) {
    foreach (['reader', 'clerk', ...$path === 'removed/destroy' ? ['librarian'] : []] as $who) {
        $this->as($who)->json($method, "/api/{$path}")->assertForbidden();
    }
})->with(FOR_REMOVING);

it('lets only the librarian design', function (string $method, string $path) {
    foreach (['reader', 'clerk', 'manager'] as $who) {
        $this->as($who)->json($method, "/api/{$path}")->assertForbidden();
    }
})->with(FOR_DESIGN);

it('tells nothing of a library to those who may not see it', function () {
    $ref = $this->filed('The secret otter clause', 'otter.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
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
    $ref = $this->filed('A permit', 'permit.txt', 'mooring_permit', ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Marigold Ash'], 'holder' => ['Osric Vane']], 'harbour');
    // Covered for whoever may see it too, until uncovered on record.
    expect($this->as('clerk')->getJson("/api/documents/{$ref}")->json('values.holder.0'))->toBe(['value' => '', 'label' => '•••••', 'covered' => true])
        ->and($this->postJson("/api/documents/{$ref}/reveal", ['field' => 'holder'])->json('values.holder.0.value'))->toBe('Osric Vane')
        ->and($this->getJson("/api/documents/{$ref}/history")->json('history.0'))->toMatchArray(['act' => 'uncovered', 'by' => 'Fenwick Dale'])
        ->and($this->search(['words' => 'osric', 'columns' => ['holder']], 'librarian')->json('rows'))->toBe([])
        ->and($this->search(['words' => 'vessel = marigold', 'columns' => ['holder']], 'clerk')->json('rows.0.cells.holder'))->toBe('•••••')
        ->and($this->search(['words' => 'holder = osric'], 'clerk')->json('total'))->toBe(1);
    expect($this->as('reader')->getJson("/api/documents/{$ref}")->json('values'))->not->toHaveKey('holder')->and($this->postJson("/api/documents/{$ref}/reveal")->json('values'))->toBe([]);
    $this->postJson("/api/documents/{$ref}/reveal", ['field' => 'holder'])->assertNotFound();
    $this->getJson("/api/documents/{$ref}/history")->assertForbidden();
    expect($this->search(['words' => 'osric'], 'reader')->json('total'))->toBe(0);
    $this->search(['words' => 'holder = osric'], 'reader')->assertUnprocessable()->assertJsonPath('error.code', 'query');
});

it('lets a reader look at a document and not change it', function () {
    $ref = $this->filed('Text', 'a.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $this->as('reader')->getJson("/api/documents/{$ref}")->assertOk()->assertJsonPath('may_change', false);
    $this->putJson("/api/documents/{$ref}", ['type' => null, 'values' => [], 'lock_version' => 1])->assertForbidden();
});

it('keeps what waits in one person’s intake from everybody else', function () {
    $ref = $this->upload('Not yet filed', 'draft.txt')->json('ref');
    $this->as('librarian')->getJson("/api/documents/{$ref}")->assertNotFound();
    expect($this->getJson('/api/intake')->json('documents'))->toBe([]);
    $this->postJson('/api/intake/discard', ['documents' => [$ref]])->assertOk();
    expect($this->as('clerk')->getJson('/api/intake')->json('documents'))->toHaveCount(1);
});

it('signs in and out, and slows guessing down', function () {
    $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'wrong'])->assertUnprocessable()->assertJsonPath('error.fields.sign_in', 'The sign-in name or the password is wrong. Try again.');
    $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'tarnwick'])->assertOk()->assertJsonPath('user.may.file', false);
    $this->deleteJson('/api/session')->assertNoContent();
    $this->getJson('/api/session')->assertJsonPath('user', null);
    for ($i = 0; $i < 12; $i++) {
        $last = $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'wrong']);
    }
    $last->assertTooManyRequests()->assertJsonPath('error.code', 'too_many');
});

/** An access rule: documents of the harbour that mention an incident are for the harbour office. */
const HARBOUR_RULE = ['code' => 'incidents', 'name' => 'Incidents', 'criterion' => 'severity == critical', 'acts' => ['see'], 'groups' => ['Harbour office']];

it('keeps documents by a value to some groups, in every way they could show', function () {
    $incident = fn (string $name, string $severity): string => $this->filed('the otter ran aground', $name, 'incident_report', ['document_date' => ['2024'], 'severity' => [$severity], 'vessel' => ["Vessel {$severity}"]], 'harbour');
    [$minor, $critical] = [$incident('minor.txt', 'minor'), $incident('critical.txt', 'critical')];
    $this->as('librarian')->postJson('/api/design/access', HARBOUR_RULE)->assertCreated();
    $loses = collect($this->effects())->where('effect', 'loses');
    expect($loses->pluck('documents')->unique()->all())->toBe([1])->and($loses->first()['rows'][0]['ref'])->toBe($critical);
    $this->publish()->assertCreated();
    foreach (['reader', 'clerk', 'librarian'] as $who) {
        $found = $this->search(['words' => 'otter', 'facets' => []], $who);
        expect($found->json('total'))->toBe(1)->and($found->json('visible'))->toBe(1)->and(json_encode($found->json()))->not->toContain('Vessel critical')->and($this->search(['words' => 'severity == critical'], $who)->json('ledger.0.alone'))->toBe(0);
        $this->getJson("/api/documents/{$critical}")->assertNotFound();
        $this->getJson("/api/documents/{$critical}/pages/1")->assertNotFound();
        $this->get("/api/documents/{$critical}/file")->assertNotFound();
        expect(json_encode($this->getJson('/api/desk')->json()))->not->toContain($critical)->toContain($minor);
    }
    $person = App\Models\User::query()->where('sign_in', 'reader')->firstOrFail();
    $this->as('librarian')->putJson("/api/design/people/{$person->id}", ['groups' => ['Everyone', 'Harbour office']])->assertOk();
    app()->forgetScopedInstances();
    expect($this->search(['words' => 'otter'], 'reader')->json('total'))->toBe(2);
    // Looking as somebody shows what both may see, never more.
    app()->forgetScopedInstances();
    expect($this->search(['words' => 'otter', 'as' => 'reader'])->json('total'))->toBe(1);
    $this->as('librarian')->getJson("/api/design/people/{$person->id}/sight")->assertOk()->assertJsonPath('sees', 1)->assertJsonPath('hidden', 0);
    app()->forgetScopedInstances();
    $this->search(['words' => 'otter', 'as' => 'librarian'], 'reader')->assertForbidden();
});

it('keeps filing and changing to some groups', function () {
    $this->as('librarian')->postJson('/api/design/access', [...HARBOUR_RULE, 'acts' => ['file', 'change'], 'criterion' => 'severity == critical or severity == serious'])->assertCreated();
    $type = $this->drafted('types', 'pilotage_note');
    $this->putJson('/api/design/types/pilotage_note', [...$type, 'filers' => ['Harbour office']])->assertOk();
    $this->publish()->assertCreated();
    $ref = $this->filed('x', 'x.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor']], 'harbour');
    $this->as('clerk')->upload('y', 'y.txt', 'harbour');
    $waiting = $this->getJson('/api/intake')->json('documents.0.ref');
    $this->postJson('/api/intake/file', ['documents' => [$waiting], 'type' => 'incident_report', 'values' => ['document_date' => ['2024'], 'severity' => ['critical']]])->assertUnprocessable()->assertJsonPath('error.code', 'refused');
    $this->postJson('/api/intake/file', ['documents' => [$waiting], 'type' => 'pilotage_note', 'values' => ['document_date' => ['2024']]])->assertUnprocessable()->assertJsonPath('error.fields.type', 'Documents of the type “Pilotage note” are filed by Harbour office.');
    expect($this->getJson('/api/intake')->json('documents'))->toHaveCount(1)->and($this->search(['words' => 'type == incident_report'])->json('total'))->toBe(1);
    $this->as('clerk')->putJson("/api/documents/{$ref}", ['type' => 'incident_report', 'values' => ['document_date' => ['2024'], 'severity' => ['serious']], 'lock_version' => 1])->assertUnprocessable();
    $this->as('clerk')->getJson("/api/documents/{$ref}")->assertJsonPath('may_change', true)->assertJsonPath('values.severity.0.value', 'minor');
});

it('offers views to their groups, and none that would show nothing', function () {
    $names = fn (string $who): array => collect($this->as($who)->getJson('/api/design')->json('views'))->pluck('code')->all();
    expect($names('reader'))->toBe([]);
    $this->filed('x', 'x.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor']], 'harbour');
    $this->filed('x', 'y.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    app()->forgetScopedInstances();
    expect($names('reader'))->toBe(['everything', 'incidents'])->and($names('manager'))->toContain('board');
    $view = [...$this->drafted('views', 'incidents'), 'name' => 'My incidents'];
    $this->as('reader')->putJson('/api/me/views/my-incidents', $view)->assertOk();
    $this->putJson('/api/me/views/my-incidents', [...$view, 'columns' => ['nothing']])->assertUnprocessable();
    $this->putJson('/api/me/preferences', ['default_view' => 'my-incidents'])->assertOk();
    expect($names('reader'))->toContain('my-incidents')->and($names('manager'))->not->toContain('my-incidents')->and($this->as('reader')->getJson('/api/design')->json('default_view'))->toBe('my-incidents');
    $this->deleteJson('/api/me/views/my-incidents')->assertNoContent();
    expect($names('reader'))->not->toContain('my-incidents');
});

it('keeps groups that the design names', function () {
    $id = App\Models\Group::query()->where('name', 'Board office')->value('id');
    expect($this->as('librarian')->deleteJson("/api/design/people/groups/{$id}")->assertUnprocessable()->json('error.message'))->toContain('names this group');
    $this->postJson('/api/design/people/groups', ['name' => 'Volunteers'])->assertOk();
    $this->postJson('/api/design/people/groups', ['name' => 'Volunteers'])->assertUnprocessable();
    $this->deleteJson('/api/design/people/groups/'.App\Models\Group::query()->where('name', 'Volunteers')->value('id'))->assertOk();
});
