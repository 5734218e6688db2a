<?php

declare(strict_types=1);

const FOR_FILING = [['GET', 'intake'], ['POST', 'intake'], ['POST', 'intake/file'], ['POST', 'intake/discard'], ['POST', 'intake/restore']];

const FOR_DESIGN = [
    ['GET', 'design/draft'], ['GET', 'design/draft/effects'], ['POST', 'design/draft/discard'], ['POST', 'design/draft/publish'], ['POST', 'design/advice'],
    ['GET', 'design/versions'], ['GET', 'design/versions/1'], ['POST', 'design/versions/1/restore'], ['GET', 'design/file'], ['POST', 'design/file'],
    ['POST', 'design/repositories'], ['PUT', 'design/repositories/operations'], ['DELETE', 'design/repositories/operations'],
    ['POST', 'design/libraries'], ['PUT', 'design/libraries/harbour'], ['DELETE', 'design/libraries/harbour'],
    ['POST', 'design/vocabularies'], ['PUT', 'design/vocabularies/condition'], ['DELETE', 'design/vocabularies/condition'],
    ['POST', 'design/fields'], ['PUT', 'design/fields/vessel'], ['DELETE', 'design/fields/vessel'],
    ['POST', 'design/types'], ['PUT', 'design/types/tender'], ['DELETE', 'design/types/tender'],
    ['POST', 'design/views'], ['PUT', 'design/views/permits'], ['DELETE', 'design/views/permits'],
];

const EVERY_ROUTE = [
    ['DELETE', 'session'], ['GET', 'desk'], ['GET', 'design'], ['POST', 'search'], ['POST', 'search/groups'], ['POST', 'search/criterion'],
    ['GET', 'documents/D-00001-X'], ['PUT', 'documents/D-00001-X'], ['GET', 'documents/D-00001-X/hits'], ['GET', 'documents/D-00001-X/pages/1'], ['GET', 'documents/D-00001-X/file'],
    ...FOR_FILING, ...FOR_DESIGN,
];

it('asks strangers to sign in', function (string $method, string $path) {
    $this->json($method, "/api/{$path}")->assertUnauthorized()->assertJsonPath('error.code', 'sign_in');
})->with(EVERY_ROUTE);

it('lets only those who file into intake', function (string $method, string $path) {
    foreach (['reader', 'manager'] as $who) {
        $this->as($who)->json($method, "/api/{$path}")->assertForbidden()->assertJsonPath('error.code', 'forbidden');
    }
})->with(FOR_FILING);

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
    expect($this->as('clerk')->getJson("/api/documents/{$ref}")->json('values.holder.0.value'))->toBe('Osric Vane')
        ->and($this->search(['words' => 'holder = osric'], 'clerk')->json('total'))->toBe(1);
    expect($this->as('reader')->getJson("/api/documents/{$ref}")->json('values'))->not->toHaveKey('holder');
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
    $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'wrong'])->assertUnprocessable()->assertJsonPath('error.fields.sign_in', 'The sign-in name and the password do not go together.');
    $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'tarnwick'])->assertOk()->assertJsonPath('user.may.file', false);
    $this->deleteJson('/api/session')->assertNoContent();
    $this->getJson('/api/session')->assertJsonPath('user', null);
    for ($i = 0; $i < 12; $i++) {
        $last = $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'wrong']);
    }
    $last->assertTooManyRequests()->assertJsonPath('error.code', 'too_many');
});
