<?php

declare(strict_types=1);

use App\Models\Field;

const PLAIN_FIELD = ['code' => 'sluice', 'label' => 'Sluice', 'kind' => 'text'];

it('makes a field, gives it to a type, and intake and find use it at once', function () {
    $this->as('librarian')->postJson('/api/design/fields', [...PLAIN_FIELD, 'faceted' => true])->assertCreated()->assertJsonPath('lock_version', 1);
    $type = collect($this->getJson('/api/design')->json('types'))->firstWhere('code', 'stoppage_notice');
    $type['fields'][] = ['code' => 'sluice', 'required' => true];
    $this->putJson('/api/design/types/stoppage_notice', $type)->assertOk()->assertJsonPath('lock_version', 2);

    $this->upload('Closed', 'closed.txt')->assertCreated();
    $ref = $this->getJson('/api/intake')->json('documents.0.ref');
    $sheet = ['document_date' => ['2024-05-01'], 'waterway' => ['Summit pound']];
    $this->postJson('/api/intake/file', ['documents' => [$ref], 'type' => 'stoppage_notice', 'values' => $sheet])
        ->assertUnprocessable()->assertJsonPath('error.fields.sluice', 'Sluice is required.');
    $this->postJson('/api/intake/file', ['documents' => [$ref], 'type' => 'stoppage_notice', 'values' => [...$sheet, 'sluice' => ['Ferry paddle']]])->assertOk();

    $found = $this->search(['words' => 'sluice = ferry', 'columns' => ['sluice']])->assertOk();
    expect($found->json('total'))->toBe(1)->and($found->json('rows.0.cells.sluice'))->toBe('Ferry paddle');
    $facet = collect($found->json('facets'))->firstWhere('field', 'sluice');
    expect($facet['values'][0])->toMatchArray(['label' => 'Ferry paddle', 'count' => 1]);
});

it('refuses fields that cannot work, beside the property at fault', function (array $field, string $property) {
    $this->as('librarian')->postJson('/api/design/fields', $field)->assertUnprocessable()->assertJsonStructure(['error' => ['code', 'message', 'fields' => [$property]]]);
    expect(Field::query()->where('label', 'Sluice')->exists())->toBeFalse();
})->with([
    [[...PLAIN_FIELD, 'code' => 'Bad code'], 'code'],
    [[...PLAIN_FIELD, 'code' => 'title'], 'code'],
    [[...PLAIN_FIELD, 'code' => 'vessel'], 'code'],
    [[...PLAIN_FIELD, 'kind' => 'colour'], 'kind'],
    [[...PLAIN_FIELD, 'kind' => 'choice'], 'vocabulary'],
    [[...PLAIN_FIELD, 'kind' => 'number', 'minimum' => 3, 'maximum' => 1], 'maximum'],
]);

it('overwrites nothing that somebody else changed', function () {
    $view = collect($this->as('librarian')->getJson('/api/design')->json('views'))->firstWhere('code', 'permits');
    $this->putJson('/api/design/views/permits', [...$view, 'name' => 'First'])->assertOk();
    $this->putJson('/api/design/views/permits', [...$view, 'name' => 'Second'])->assertConflict()
        ->assertJsonPath('error.code', 'stale')->assertJsonPath('error.current.name', 'First');
});

it('keeps what is in use', function () {
    $this->filed('x', 'x.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $this->as('librarian');
    foreach (['fields/waterway', 'vocabularies/waterway', 'types/stoppage_notice', 'libraries/waterways', 'repositories/operations'] as $part) {
        $this->deleteJson("/api/design/{$part}")->assertUnprocessable()->assertJsonPath('error.code', 'refused');
    }
    $design = $this->getJson('/api/design')->json();
    $waterway = collect($design['vocabularies'])->firstWhere('code', 'waterway');
    $without = array_values(array_filter($waterway['terms'], fn (array $t): bool => $t['code'] !== 'tarn-sea'));
    $this->putJson('/api/design/vocabularies/waterway', [...$waterway, 'terms' => $without])->assertUnprocessable()->assertJsonPath('error.message', '“Sea lock pound” cannot be taken out: 1 documents have it.');
    $this->putJson('/api/design/fields/waterway', [...collect($design['fields'])->firstWhere('code', 'waterway'), 'kind' => 'text'])->assertUnprocessable();
});

it('refuses vocabularies that go in circles or hang in the air', function () {
    $terms = [['code' => 'a', 'label' => 'A', 'parent' => 'b'], ['code' => 'b', 'label' => 'B', 'parent' => 'a']];
    $this->as('librarian')->postJson('/api/design/vocabularies', ['code' => 'v', 'name' => 'V', 'terms' => $terms])->assertUnprocessable()->assertJsonPath('error.fields.terms', '“a” stands below itself. Give it another parent.');
    $terms[1]['parent'] = 'c';
    $this->postJson('/api/design/vocabularies', ['code' => 'v', 'name' => 'V', 'terms' => $terms])->assertUnprocessable();
});

it('renames a term and a moved branch in the index too', function () {
    $this->filed('x', 'x.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $vocabulary = collect($this->as('librarian')->getJson('/api/design')->json('vocabularies'))->firstWhere('code', 'waterway');
    foreach ($vocabulary['terms'] as $i => $term) {
        if ($term['code'] === 'tarn-sea') {
            $vocabulary['terms'][$i] = ['code' => 'tarn-sea', 'label' => 'Estuary pound', 'parent' => 'harbour'];
        }
    }
    expect($this->search(['words' => 'waterway == tarn'])->json('total'))->toBe(1);
    $this->putJson('/api/design/vocabularies/waterway', $vocabulary)->assertOk();
    app()->forgetScopedInstances();
    expect($this->search(['words' => 'estuary'])->json('total'))->toBe(1)
        ->and($this->search(['words' => 'waterway == tarn'])->json('total'))->toBe(0)
        ->and($this->search(['words' => 'waterway == harbour'])->json('total'))->toBe(1);
});

it('checks views and title patterns against the fields', function () {
    $this->as('librarian');
    $this->postJson('/api/design/views', ['code' => 'v', 'name' => 'V', 'columns' => ['nothing'], 'criterion' => ''])->assertUnprocessable()->assertJsonStructure(['error' => ['fields' => ['columns']]]);
    $this->postJson('/api/design/views', ['code' => 'v', 'name' => 'V', 'columns' => ['vessel'], 'criterion' => 'vesel == x'])->assertUnprocessable()->assertJsonPath('error.fields.criterion', 'There is no field “vesel”. The nearest name is “vessel”.');
    $this->postJson('/api/design/types', ['code' => 't', 'name' => 'T', 'title_pattern' => '{vessel}', 'fields' => []])->assertUnprocessable()->assertJsonStructure(['error' => ['fields' => ['title_pattern']]]);
});

it('lets a designer see the library they made, and nobody else yet', function () {
    $this->as('librarian')->postJson('/api/design/libraries', ['code' => 'annex', 'name' => 'Annex', 'repository' => 'heritage', 'types' => ['plan']])->assertCreated();
    expect(collect($this->getJson('/api/desk')->json('libraries'))->pluck('code'))->toContain('annex');
    $this->deleteJson('/api/design/libraries/annex')->assertNoContent();
});
