<?php

declare(strict_types=1);

use App\Models\Group;
use App\Models\User;

const PLAIN_FIELD = ['code' => 'sluice', 'label' => 'Sluice', 'kind' => 'text'];

it('makes a field in the draft, gives it to a type, and intake and find use it once it is published', function () {
    $this->as('librarian')
        ->postJson('/api/design/fields', [...PLAIN_FIELD, 'faceted' => true])
        ->assertCreated()
        ->assertJsonPath('lock_version', 1);
    $type = $this->drafted('types', 'stoppage_notice');
    $type['fields'][] = ['code' => 'sluice', 'required' => true];
    $this->putJson('/api/design/types/stoppage_notice', $type)->assertOk()->assertJsonPath('lock_version', 2);
    expect(collect($this->getJson('/api/design')->json('fields'))->pluck('code'))->not->toContain('sluice');
    $this->search(['words' => 'sluice = x'])->assertUnprocessable();
    $this->search(['words' => 'sluice = x', 'draft' => true])->assertOk();
    app()->forgetScopedInstances();
    $this->search(['words' => 'sluice = x', 'draft' => true], 'clerk')->assertUnprocessable();
    $this->publish('A field for sluices')->assertCreated()->assertJsonPath('note', 'A field for sluices');

    $this->upload('Closed', 'closed.txt')->assertCreated();
    $ref = $this->getJson('/api/intake')->json('documents.0.ref');
    $sheet = ['document_date' => ['2024-05-01'], 'waterway' => ['Summit pound']];
    $this->postJson('/api/intake/file', ['documents' => [$ref], 'type' => 'stoppage_notice', 'values' => $sheet])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.sluice', 'Sluice is required.');
    $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'stoppage_notice',
        'values' => [...$sheet, 'sluice' => ['Ferry paddle']],
    ])->assertOk();

    $found = $this->search(['words' => 'sluice = ferry', 'columns' => ['sluice']])->assertOk();
    expect($found->json('total'))->toBe(1)->and($found->json('rows.0.cells.sluice'))->toBe('Ferry paddle');
    $facet = collect($found->json('facets'))->firstWhere('field', 'sluice');
    expect($facet['values'][0])->toMatchArray(['label' => 'Ferry paddle', 'count' => 1]);
});

it('refuses fields that cannot work, beside the property at fault', function (array $field, string $property) {
    $this->as('librarian')
        ->postJson('/api/design/fields', $field)
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['code', 'message', 'fields' => [$property]]]);
    expect($this->getJson('/api/design/draft')->json('changes'))->toBe([]);
})->with([
    [[...PLAIN_FIELD, 'code' => 'Bad code'], 'code'],
    [[...PLAIN_FIELD, 'code' => 'title'], 'code'],
    [[...PLAIN_FIELD, 'code' => 'vessel'], 'code'],
    [[...PLAIN_FIELD, 'kind' => 'colour'], 'kind'],
    [[...PLAIN_FIELD, 'kind' => 'choice'], 'vocabulary'],
    [[...PLAIN_FIELD, 'kind' => 'number', 'minimum' => 3, 'maximum' => 1], 'maximum'],
]);

it('overwrites nothing that somebody else changed', function () {
    $view = $this->drafted('views', 'permits');
    $this->putJson('/api/design/views/permits', [...$view, 'name' => 'First'])->assertOk();
    $this->putJson('/api/design/views/permits', [...$view, 'name' => 'Second'])
        ->assertConflict()
        ->assertJsonPath('error.code', 'stale')
        ->assertJsonPath('error.current.name', 'First')
        ->assertJsonPath('error.current.lock_version', 2);
    $this->publish()->assertCreated();
    $this->as('librarian')
        ->putJson('/api/design/views/permits', [...$view, 'name' => 'Second'])
        ->assertConflict();
    expect($this->drafted('views', 'permits')['lock_version'])->toBe(2);
});

it('keeps what is in use', function () {
    $this->filed('x', 'x.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $this->as('librarian');
    foreach (['fields/waterway', 'vocabularies/waterway', 'types/stoppage_notice', 'repositories/operations'] as $part) {
        $this->deleteJson("/api/design/{$part}")
            ->assertUnprocessable()
            ->assertJsonPath('error.code', 'refused');
    }
    foreach (['office_scanner', 'office_mail', 'post_room'] as $source) {
        $this->deleteJson("/api/design/sources/{$source}")->assertNoContent();
    }
    $this->deleteJson('/api/design/libraries/waterways')
        ->assertUnprocessable()
        ->assertJsonPath('error.message', 'The search form “Inspections” still uses it.');
    $this->deleteJson('/api/design/forms/find_inspection')->assertNoContent();
    $this->deleteJson('/api/design/libraries/waterways')->assertNoContent();
    $this->publish()
        ->assertUnprocessable()
        ->assertJsonPath('error.message', 'Waterways: 1 documents are in this library. Change them first, or undo this change.');
    $this->as('librarian')
        ->postJson('/api/design/draft/discard', ['kind' => 'libraries', 'code' => 'waterways'])
        ->assertOk();
    $this->postJson('/api/design/draft/discard')->assertJsonPath('changes', []);
    $waterway = $this->drafted('vocabularies', 'waterway');
    $without = array_values(array_filter($waterway['terms'], fn (array $t): bool => $t['code'] !== 'tarn-sea'));
    $this->putJson('/api/design/vocabularies/waterway', [...$waterway, 'terms' => $without])->assertOk();
    expect($this->effects()[0])->toMatchArray([
        'effect' => 'lost',
        'stops' => true,
        'documents' => 1,
        'what' => 'with a Waterway that is no longer in the list',
        'cql' => 'waterway == "Sea lock pound"',
    ]);
    $this->publish()->assertUnprocessable();
});

it('counts what a draft would do to the documents, and lists them', function () {
    foreach ([['2019-03-14', '1.5'], ['2020', '25'], ['2021', null]] as $i => [$date, $depth]) {
        $this->filed('x', "s{$i}.txt", 'dredging_survey', [
            'document_date' => [$date],
            'waterway' => ['tarn-sea'],
            ...$depth === null ? [] : ['silt_depth' => [$depth === '25' ? '15' : $depth]],
        ]);
    }
    $field = $this->drafted('fields', 'silt_depth');
    $this->putJson('/api/design/fields/silt_depth', [...$field, 'maximum' => 10])->assertOk();
    $type = $this->drafted('types', 'dredging_survey');
    $this->putJson('/api/design/types/dredging_survey', [
        ...$type,
        'title_pattern' => 'Survey {document_date}',
        'fields' => array_map(fn (array $f): array => [...$f, 'required' => $f['required'] || $f['code'] === 'silt_depth'], $type['fields']),
    ])->assertOk();
    $view = $this->drafted('views', 'surveys');
    $this->putJson('/api/design/views/surveys', [...$view, 'criterion' => 'type == dredging_survey and document_date >= 2020'])->assertOk();
    $effects = collect($this->effects())->keyBy('effect');
    expect($effects->map(fn (array $e): int => $e['documents'])->all())
        ->toBe(['invalid' => 1, 'missing' => 1, 'retitled' => 3, 'vanishes' => 1])
        ->and($effects['invalid']['examples'][0])
        ->toMatchArray(['documents' => 1, 'reason' => 'Silt depth is at most 10; “15” is above it.']);
    foreach ($effects as $effect) {
        expect($this->search(['words' => $effect['cql'], 'draft' => true])->json('total'))->toBe($effect['documents'], $effect['effect']);
    }
    $this->publish('Depth required')->assertCreated();
    expect($this->search(['words' => 'title = survey', 'where' => ['title']])->json('rows.0.title'))->toStartWith('Survey ');
});

it('turns values into a new kind when all of them can be, and says which cannot', function () {
    $ref = $this->filed('x', 'x.txt', 'contract', ['contractor' => ['1200'], 'document_date' => ['2024']], 'works');
    $other = $this->filed('x', 'y.txt', 'contract', ['contractor' => ['Eastwick'], 'document_date' => ['2024']], 'works');
    $field = $this->drafted('fields', 'contractor');
    $this->putJson('/api/design/fields/contractor', [...$field, 'kind' => 'number', 'faceted' => false])->assertOk();
    $effects = collect($this->effects())->keyBy('effect');
    expect($effects['lost']['examples'])
        ->toHaveCount(1)
        ->and($effects['lost']['examples'][0]['value'])
        ->toBe('Eastwick')
        ->and($effects['converted']['documents'])
        ->toBe(1);
    $this->publish()->assertUnprocessable();
    $document = $this->as('librarian')
        ->getJson("/api/documents/{$other}")
        ->json();
    $this->putJson("/api/documents/{$other}", [
        'type' => 'contract',
        'values' => ['contractor' => ['1 500.5'], 'document_date' => ['2024']],
        'lock_version' => $document['lock_version'],
    ])->assertOk();
    $this->publish()->assertCreated();
    expect($this->search(['words' => 'contractor > 1300'])->json('rows.0.ref'))
        ->toBe($other)
        ->and($this->search(['words' => 'contractor = 1200'])->json('rows.0.ref'))
        ->toBe($ref);
    expect(
        $this->as('clerk')
            ->getJson("/api/documents/{$other}")
            ->json('values.contractor.0.value'),
    )->toBe('1500.5');
});

it('publishes numbered versions, compares them and brings one back', function () {
    $view = $this->drafted('views', 'permits');
    $this->putJson('/api/design/views/permits', [...$view, 'name' => 'Permits of the harbour'])->assertOk();
    $first = $this->publish('Renamed')->assertCreated()->json('number');
    $versions = $this->as('librarian')->getJson('/api/design/versions')->json('versions');
    expect(array_column($versions, 'number'))
        ->toBe([$first, $first - 1])
        ->and($versions[1]['note'])
        ->toBe('As it was before the first publication');
    $compared = $this->getJson('/api/design/versions/'.($first - 1).'?against='.$first)->json('changes');
    expect($compared)
        ->toHaveCount(1)
        ->and($compared[0])
        ->toMatchArray([
            'kind' => 'views',
            'code' => 'permits',
            'act' => 'changed',
            'properties' => [['property' => 'name', 'before' => 'Mooring permits', 'after' => 'Permits of the harbour']],
        ]);
    $this->postJson('/api/design/versions/'.($first - 1).'/restore')
        ->assertOk()
        ->assertJsonPath('changes.0.code', 'permits');
    $this->publish('Back')->assertCreated();
    expect(collect($this->as('librarian')->getJson('/api/design')->json('views'))->firstWhere('code', 'permits')['name'])->toBe(
        'Mooring permits',
    );
    $this->publish()->assertUnprocessable();
});

it('writes the design as a file and takes one into the draft, refusing what is wrong with the path of the fault', function () {
    $file = $this->as('librarian')->getJson('/api/design/file')->assertOk()->json();
    $send = fn (string $json) => $this->as('librarian')->call(
        'POST',
        '/api/design/file',
        [],
        [],
        [],
        ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/json'],
        $json,
    );
    $send(json_encode($file))->assertOk()->assertJsonPath('changes', []);
    $changed = $file;
    $changed['fields'][0]['label'] = 'Dated';
    $changed['views'] = array_values(array_filter($file['views'], fn (array $v): bool => $v['code'] !== 'unread'));
    expect(
        array_map(fn (array $c): array => [$c['kind'], $c['code'], $c['act']], $send(json_encode($changed))->assertOk()->json('changes')),
    )->toBe([['fields', 'document_date', 'changed'], ['views', 'unread', 'removed']]);
    $wrong = $file;
    $wrong['fields'][3]['kind'] = 'colour';
    expect($send(json_encode($wrong))->assertUnprocessable()->json('error.message'))->toStartWith('/fields/3/kind: ');
    $wrong = $file;
    $wrong['views'][0]['columns'] = ['nothing'];
    expect($send(json_encode($wrong))->assertUnprocessable()->json('error.message'))->toBe(
        '/views/everything/columns: There is no field “nothing”.',
    );
    $send('{')->assertUnprocessable();
});

it('refuses vocabularies that go in circles or hang in the air', function () {
    $terms = [['code' => 'a', 'label' => 'A', 'parent' => 'b'], ['code' => 'b', 'label' => 'B', 'parent' => 'a']];
    $this->as('librarian')
        ->postJson('/api/design/vocabularies', ['code' => 'v', 'name' => 'V', 'terms' => $terms])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.terms', '“a” stands below itself. Give it another parent.');
    $terms[1]['parent'] = 'c';
    $this->postJson('/api/design/vocabularies', ['code' => 'v', 'name' => 'V', 'terms' => $terms])->assertUnprocessable();
});

it('renames a term and a moved branch in the index too', function () {
    $this->filed('x', 'x.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $vocabulary = $this->drafted('vocabularies', 'waterway');
    foreach ($vocabulary['terms'] as $i => $term) {
        if ($term['code'] === 'tarn-sea') {
            $vocabulary['terms'][$i] = ['code' => 'tarn-sea', 'label' => 'Estuary pound', 'parent' => 'harbour'];
        }
    }
    expect($this->search(['words' => 'waterway == tarn'])->json('total'))->toBe(1);
    $this->putJson('/api/design/vocabularies/waterway', $vocabulary)->assertOk();
    expect(array_map(fn (array $e): array => [$e['effect'], $e['documents']], $this->effects()))->toBe([['retitled', 1], ['reworded', 1]]);
    $this->publish()->assertCreated();
    expect($this->search(['words' => 'estuary'])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'waterway == tarn'])->json('total'))
        ->toBe(0)
        ->and($this->search(['words' => 'waterway == harbour'])->json('total'))
        ->toBe(1);
});

it('checks views and title patterns against the fields', function () {
    $this->as('librarian');
    $this->postJson('/api/design/views', ['code' => 'v', 'name' => 'V', 'columns' => ['nothing'], 'criterion' => ''])
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['columns']]]);
    $this->postJson('/api/design/views', ['code' => 'v', 'name' => 'V', 'columns' => ['vessel'], 'criterion' => 'vesel == x'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.criterion', 'There is no field “vesel”. The nearest name is “vessel”.');
    $this->postJson('/api/design/types', ['code' => 't', 'name' => 'T', 'title_pattern' => '{vessel}', 'fields' => []])
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['title_pattern']]]);
});

it('lets a designer see the library they made', function () {
    $this->as('librarian')
        ->postJson('/api/design/libraries', ['code' => 'annex', 'name' => 'Annex', 'repository' => 'heritage', 'types' => ['plan']])
        ->assertCreated();
    $this->publish()->assertCreated();
    expect(collect($this->as('librarian')->getJson('/api/desk')->json('libraries'))->pluck('code'))->toContain('annex');
});

it('finds and fills in a term by its other names', function () {
    $vocabulary = $this->drafted('vocabularies', 'condition');
    foreach ($vocabulary['terms'] as $i => $term) {
        $vocabulary['terms'][$i]['synonyms'] = $term['code'] === 'd' ? ['Shabby'] : [];
    }
    $this->putJson('/api/design/vocabularies/condition', $vocabulary)->assertOk();
    $this->publish()->assertCreated();
    $ref = $this->filed('x', 'x.txt', 'dredging_survey', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
        'condition' => ['shabby'],
    ]);
    expect(
        $this->as('clerk')
            ->getJson("/api/documents/{$ref}")
            ->json('values.condition.0'),
    )
        ->toBe(['value' => 'd', 'label' => 'D: poor'])
        ->and($this->search(['words' => 'shabby'])->json('rows.0.ref'))
        ->toBe($ref)
        ->and($this->search(['words' => 'condition == shabby'])->json('total'))
        ->toBe(1);
});

it('lets librarians design only what is not kept to others', function () {
    $second = User::query()->create(['name' => 'Wren Ashby', 'sign_in' => 'second', 'password' => 'tarnwick', 'role' => 'librarian']);
    App\People\Groups::put($second, ['Harbour office']);
    $mine = ['code' => 'harbour', ...$this->drafted('libraries', 'harbour'), 'designers' => ['Harbour office']];
    $this->putJson('/api/design/libraries/harbour', $mine)->assertOk();
    $this->publish()->assertCreated();

    // The board's repository, its library, its types and all that they use are the board office's.
    $draft = $this->as('second')->getJson('/api/design/draft')->assertOk();
    expect(collect($draft->json('design.types'))->firstWhere('code', 'byelaw')['kept_by'])
        ->toBe(['the repository “Board”'])
        ->and(collect($draft->json('design.types'))->firstWhere('code', 'passage_log')['kept_by'])
        ->toBe([]);
    $part = static fn (string $kind, string $code): array => collect($draft->json("design.{$kind}"))->firstWhere('code', $code);
    foreach (
        [['libraries', 'board'], ['repositories', 'board'], ['types', 'byelaw'], ['fields', 'confidentiality'], ['access', 'confidential']] as [$kind, $code]
    ) {
        $this->putJson("/api/design/{$kind}/{$code}", [...$part($kind, $code), $kind === 'fields' ? 'label' : 'name' => 'Mine now'])
            ->assertForbidden()
            ->assertJsonPath('error.message', fn (string $m) => str_contains($m, 'is kept to other groups'));
        $this->deleteJson("/api/design/{$kind}/{$code}")->assertForbidden();
    }
    $this->postJson('/api/design/libraries', [
        'code' => 'annex',
        'name' => 'Annex',
        'repository' => 'board',
        'types' => [],
    ])->assertForbidden();
    $this->putJson('/api/design/types/passage_log', [...$part('types', 'passage_log'), 'name' => 'Log of passages'])->assertOk();
    // Nor by a way round: a whole file, or a place among those who may.
    $file = $this->getJson('/api/design/file')->json();
    $file['repositories'] = array_map(static fn (array $r): array => [...$r, 'designers' => []], $file['repositories']);
    $this->postJson('/api/design/file', $file)->assertForbidden();
    $this->putJson("/api/design/people/{$second->id}", ['groups' => ['Board office']])->assertForbidden();
    $this->postJson('/api/design/people/groups', ['name' => 'Own'])->assertForbidden();

    // What others drafted is published and taken back by those who may design it.
    $this->as('librarian');
    $this->putJson('/api/design/types/byelaw', [...$this->drafted('types', 'byelaw'), 'name' => 'Bye-law'])->assertOk();
    $this->as('second')
        ->postJson('/api/design/draft/publish', ['note' => ''])
        ->assertForbidden();
    $this->postJson('/api/design/draft/discard', ['kind' => 'types', 'code' => 'byelaw'])->assertForbidden();
    $this->postJson('/api/design/draft/discard')->assertForbidden();
    $this->postJson('/api/design/draft/discard', ['kind' => 'types', 'code' => 'passage_log'])->assertOk();
    // What was handed over is no longer one's own.
    $this->as('librarian')
        ->putJson('/api/design/types/passage_log', [...$this->drafted('types', 'passage_log'), 'name' => 'X'])
        ->assertForbidden();
});

it('keeps somebody who designs in every group of designers', function () {
    $librarian = User::query()->where('sign_in', 'librarian')->value('id');
    $this->as('librarian')
        ->putJson("/api/design/people/{$librarian}", ['groups' => ['Everyone', 'Records office']])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', 'This would leave nobody who may change the repository “Board”.');
    $this->putJson('/api/design/libraries/works', [...$this->drafted('libraries', 'works'), 'designers' => ['Harbour office']])
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['designers']]]);
    $this->deleteJson('/api/design/people/groups/'.Group::query()->where('name', 'Board office')->value('id'))->assertUnprocessable();
});
