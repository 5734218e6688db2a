<?php

declare(strict_types=1);

use App\Design\Reindex;
use App\Models\DesignVersion;
use App\Models\Reindexing;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** @param  array<string, array<string, mixed>>  $changes  by code of the term */
function changedTerms(array $vocabulary, array $changes, array $more = []): array
{
    return [
        ...$vocabulary,
        'terms' => [...array_map(static fn (array $t): array => [...$t, ...$changes[$t['code']] ?? []], $vocabulary['terms']), ...$more],
    ];
}

it('gives documents the replacement of a retired term, and their own back with the version before', function () {
    $survey = fn (string $name, string $grade): string => $this->filed('x', $name, 'dredging_survey', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
        'condition' => [$grade],
    ]);
    [$d, $e, $later] = [$survey('d.txt', 'd'), $survey('e.txt', 'e'), $survey('later.txt', 'd')];
    $this->putJson('/api/design/views/permits', [...$this->drafted('views', 'permits'), 'name' => 'Permits'])->assertOk();
    $first = $this->publish('Before')->json('number');
    $this->as('librarian')
        ->putJson(
            '/api/design/vocabularies/condition',
            changedTerms($this->drafted('vocabularies', 'condition'), ['d' => ['retired' => true, 'replaced_by' => 'e']]),
        )
        ->assertOk();
    $effects = collect($this->effects())->keyBy('effect');
    expect($effects['replaced'])
        ->toMatchArray(['documents' => 2, 'what' => 'with the Condition grade “D: poor”, given “E: failing” instead'])
        ->and($effects['emptied']['documents'])
        ->toBe(1);
    $this->publish('Merged')->assertCreated();
    expect([valuesOf($d, 'condition'), valuesOf($e, 'condition')])
        ->toBe([['e'], ['e']])
        ->and($this->search(['words' => 'condition == e'])->json('total'))
        ->toBe(3);
    $this->as('clerk')->upload('y', 'new.txt');
    $ref = $this->getJson('/api/intake')->json('documents.0.ref');
    $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'dredging_survey',
        'values' => ['document_date' => ['2024'], 'waterway' => ['tarn-sea'], 'condition' => ['d']],
    ])->assertJsonPath('error.fields.condition', '“D: poor” is retired. Choose “E: failing” instead.');
    // What somebody changed since stays as it is.
    $this->putJson("/api/documents/{$later}", [
        'type' => 'dredging_survey',
        'values' => ['document_date' => ['2024'], 'waterway' => ['tarn-sea'], 'condition' => ['a']],
        'lock_version' => 1,
    ])->assertOk();
    $this->as('librarian')
        ->postJson("/api/design/versions/{$first}/restore")
        ->assertOk()
        ->assertJsonPath('restores', $first);
    $this->publish('Back')->assertCreated();
    expect([valuesOf($d, 'condition'), valuesOf($e, 'condition'), valuesOf($later, 'condition')])
        ->toBe([['d'], ['e'], ['a']])
        ->and($this->search(['words' => 'condition == d'])->json('rows.0.ref'))
        ->toBe($d);
});

it('keeps one of two values that become the same, and gives both back', function () {
    $both = $this->filed('x', 'x.txt', 'plan', ['place' => ['Quay'], 'subject' => ['HER.03', 'HER.04']], 'plans');
    $this->as('librarian')
        ->putJson(
            '/api/design/vocabularies/subject',
            changedTerms($this->drafted('vocabularies', 'subject'), ['HER.04' => ['retired' => true, 'replaced_by' => 'HER.03']]),
        )
        ->assertOk();
    $this->publish('One')->assertCreated();
    expect(valuesOf($both, 'subject'))->toBe(['HER.03']);
    $this->as('librarian')
        ->postJson('/api/design/versions/'.DesignVersion::query()->min('id').'/restore')
        ->assertOk();
    $this->publish('Two')->assertCreated();
    expect(valuesOf($both, 'subject'))
        ->toBe(['HER.03', 'HER.04'])
        ->and($this->search(['words' => 'subject == HER.04'])->json('total'))
        ->toBe(1);
});

it('splits a concept by a criterion', function () {
    $old = $this->filed('x', 'old.txt', 'plan', ['place' => ['Quay'], 'document_date' => ['1890'], 'subject' => ['HER.01.1']], 'plans');
    $new = $this->filed('x', 'new.txt', 'plan', ['place' => ['Quay'], 'document_date' => ['1950'], 'subject' => ['HER.01.1']], 'plans');
    $scheme = $this->drafted('vocabularies', 'subject');
    $this->putJson(
        '/api/design/vocabularies/subject',
        changedTerms(
            $scheme,
            [],
            [
                [
                    'code' => 'early',
                    'label' => 'Early plans',
                    'parent' => 'HER.01',
                    'from' => ['code' => 'HER.01.1', 'criterion' => 'document_date < 1900'],
                ],
            ],
        ),
    )->assertOk();
    expect(collect($this->effects())->firstWhere('effect', 'replaced'))->toMatchArray([
        'documents' => 1,
        'what' => 'with the Subject “HER.01.1 Plans”, given “Early plans” instead',
    ]);
    $this->publish()->assertCreated();
    expect([valuesOf($old, 'subject'), valuesOf($new, 'subject')])->toBe([['early'], ['HER.01.1']]);
    $this->as('librarian')
        ->putJson(
            '/api/design/vocabularies/subject',
            changedTerms($this->drafted('vocabularies', 'subject'), [
                'early' => ['from' => ['code' => 'HER.01.1', 'criterion' => 'colour = red']],
            ]),
        )
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['terms']]]);
});

it('merges a field into another, with its values, and takes it apart again', function () {
    $from = $this->filed('x', 'from.txt', 'photograph', ['place' => ['Quay'], 'vessel' => ['Juniper']], 'voices');
    $this->as('librarian')
        ->postJson('/api/design/fields', ['code' => 'boat', 'label' => 'Boat', 'kind' => 'text'])
        ->assertCreated();
    $type = $this->drafted('types', 'photograph');
    $this->putJson('/api/design/types/photograph', [...$type, 'fields' => [...$type['fields'], ['code' => 'boat']]])->assertOk();
    $this->publish('Boats')->assertCreated();
    $with = DesignVersion::query()->max('id');
    $boat = $this->filed('x', 'boat.txt', 'photograph', ['place' => ['Quay'], 'boat' => ['Fathom']], 'voices');
    $both = $this->filed('x', 'both.txt', 'photograph', ['place' => ['Quay'], 'vessel' => ['Sorrel'], 'boat' => ['Tern']], 'voices');
    $this->as('librarian')
        ->postJson('/api/design/merge-fields', ['from' => 'boat', 'into' => 'vessel'])
        ->assertOk();
    $effects = collect($this->effects())->keyBy('effect');
    expect($effects['converted'])
        ->toMatchArray(['documents' => 2, 'what' => 'with a Boat that becomes Vessel'])
        ->and($effects['dropped']['documents'])
        ->toBe(1);
    $this->publish('Merged')->assertCreated();
    expect([valuesOf($boat, 'vessel'), valuesOf($both, 'vessel'), valuesOf($from, 'vessel')])
        ->toBe([['Fathom'], ['Sorrel'], ['Juniper']])
        ->and($this->search(['words' => 'boat = fathom'])->json('rows.0.ref'))
        ->toBe($boat)
        ->and(collect($this->drafted('types', 'photograph')['fields'])->pluck('code')->all())
        ->not->toContain('boat');
    $this->as('librarian')
        ->postJson("/api/design/versions/{$with}/restore")
        ->assertOk();
    $this->publish('Apart')->assertCreated();
    expect([valuesOf($boat, 'boat'), valuesOf($boat, 'vessel'), valuesOf($both, 'boat'), valuesOf($both, 'vessel')])
        ->toBe([['Fathom'], [], ['Tern'], ['Sorrel']])
        ->and($this->search(['words' => 'boat = tern'])->json('rows.0.ref'))
        ->toBe($both);
});

it('brings values back that were written in another kind', function () {
    $ref = $this->filed('x', 'x.txt', 'passage_log', ['document_date' => ['2024'], 'author' => ['12']], 'harbour');
    $this->as('librarian')
        ->putJson('/api/design/fields/author', [...$this->drafted('fields', 'author'), 'kind' => 'number'])
        ->assertOk();
    $this->publish('Numbers')->assertCreated();
    $later = $this->filed('x', 'y.txt', 'passage_log', ['document_date' => ['2024'], 'author' => ['7']], 'harbour');
    expect($this->search(['words' => 'author > 10'])->json('rows.0.ref'))->toBe($ref);
    $this->as('librarian')
        ->postJson('/api/design/versions/'.DesignVersion::query()->min('id').'/restore')
        ->assertOk();
    $this->publish('Names')->assertCreated();
    expect([valuesOf($ref, 'author'), valuesOf($later, 'author')])
        ->toBe([['12'], ['7']])
        ->and($this->search(['words' => 'author = 12'])->json('total'))
        ->toBe(1);
});

it('names no value of documents that the publisher may not see', function () {
    $this->filed(
        'x',
        'x.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential'], 'author' => ['Secret Name']],
        'board',
        'librarian',
    );
    DB::table('design_parts')
        ->where(['kind' => 'repositories', 'code' => 'board'])
        ->update(['content' => json_encode(['name' => 'Board'])]);
    App\People\Groups::put(App\Models\User::query()->where('sign_in', 'librarian')->firstOrFail(), ['Everyone', 'Records office']);
    $this->as('librarian')
        ->putJson('/api/design/fields/author', [...$this->drafted('fields', 'author'), 'kind' => 'number'])
        ->assertOk();
    expect($this->effects())->toBe([]);
    expect($this->publish()->assertUnprocessable()->json('error.message'))
        ->toContain('may not see')
        ->not->toContain('Secret');
    expect($this->as('librarian')->getJson('/api/design/versions')->json('versions'))->toBe([]);
});

it('re-indexes in the background, stops and goes on, each document whole', function () {
    foreach (range(1, 3) as $i) {
        $this->filed('x', "{$i}.txt", 'dredging_survey', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    }
    Queue::fake();
    $type = $this->drafted('types', 'dredging_survey');
    $this->putJson('/api/design/types/dredging_survey', [...$type, 'title_pattern' => 'Sounding {document_date}'])->assertOk();
    expect(collect($this->effects())->firstWhere('effect', 'retitled')['documents'])->toBe(3);
    $this->publish('Soundings')->assertCreated();
    $work = Reindexing::query()->firstOrFail();
    expect([$work->total, $work->done, $work->state])->toBe([3, 0, 'running']);
    Queue::assertPushed(Reindex::class, 1);
    $this->as('librarian')
        ->postJson("/api/design/work/{$work->id}/stop")
        ->assertOk()
        ->assertJsonPath('work.0.state', 'stopped');
    (new Reindex($work->id))->handle(app());
    expect($this->search(['words' => 'sounding'])->json('total'))->toBe(0);
    $this->as('librarian')
        ->postJson("/api/design/work/{$work->id}/go-on")
        ->assertOk();
    (new Reindex($work->id))->handle(app());
    (new Reindex($work->id))->handle(app());
    expect($this->search(['words' => 'sounding'])->json('total'))->toBe(3);
    $this->as('librarian')
        ->getJson('/api/design/work')
        ->assertJsonPath('work.0', ['id' => $work->id, 'name' => 'Soundings', 'percent' => 100, 'state' => 'done', 'says' => '']);
});

it('merges designs that do not collide, and names where they do', function () {
    $this->as('librarian')
        ->putJson('/api/design/views/permits', [...$this->drafted('views', 'permits'), 'name' => 'Permits'])
        ->assertOk();
    $this->publish('Common')->assertCreated();
    $file = $this->as('librarian')->getJson('/api/design/file')->json();
    $edit = function (array $file, string $kind, string $code, array $change): array {
        $file[$kind] = array_map(static fn (array $p): array => $p['code'] === $code ? [...$p, ...$change] : $p, $file[$kind]);

        return $file;
    };
    $theirs = $edit($file, 'views', 'incidents', ['name' => 'Accidents']);
    $this->putJson('/api/design/views/drawings', [...$this->drafted('views', 'drawings'), 'name' => 'Plans'])->assertOk();
    $send = fn (array $file) => $this->as('librarian')->call(
        'POST',
        '/api/design/file?how=merge',
        [],
        [],
        [],
        ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/json'],
        json_encode($file),
    );
    expect(
        collect($send($theirs)->assertOk()->json('changes'))
            ->pluck('name')
            ->sort()
            ->values()
            ->all(),
    )->toBe(['Accidents', 'Plans']);
    $message = $send($edit($theirs, 'views', 'drawings', ['name' => 'Sketches']))->assertUnprocessable()->json('error.message');
    expect($message)->toContain('collide in the view “Sketches”')->and($this->drafted('views', 'drawings')['name'])->toBe('Plans');
});

/** @return list<string> every value that documents and dossiers have, as text */
function everyValue(): array
{
    $values = [];
    foreach (['document_values' => 'document_id', 'dossier_values' => 'dossier_id'] as $table => $owner) {
        foreach (DB::table($table)->join('fields', 'fields.id', '=', 'field_id')->get() as $row) {
            $values[] = "{$owner} {$row->{$owner}} {$row->code}[{$row->position}] {$row->value}";
        }
    }
    sort($values);

    return $values;
}

/** Changes of a design that change values: each drafts one, by the requests that the interface makes. */
dataset('changes of values', [
    'split' => [
        fn (Tests\TestCase $t) => $t->putJson(
            '/api/design/vocabularies/subject',
            changedTerms(
                $t->drafted('vocabularies', 'subject'),
                [],
                [
                    [
                        'code' => 'early',
                        'label' => 'Early plans',
                        'parent' => 'HER.01',
                        'from' => ['code' => 'HER.01.1', 'criterion' => 'document_date < 1900'],
                    ],
                ],
            ),
        ),
    ],
    'retired for another' => [
        fn (Tests\TestCase $t) => $t->putJson(
            '/api/design/vocabularies/subject',
            changedTerms($t->drafted('vocabularies', 'subject'), ['HER.04' => ['retired' => true, 'replaced_by' => 'HER.03']]),
        ),
    ],
    'split, and the rest given to another' => [
        fn (Tests\TestCase $t) => $t->putJson(
            '/api/design/vocabularies/subject',
            changedTerms(
                $t->drafted('vocabularies', 'subject'),
                ['HER.01.1' => ['retired' => true, 'replaced_by' => 'HER.03']],
                [
                    [
                        'code' => 'early',
                        'label' => 'Early plans',
                        'parent' => 'HER.01',
                        'from' => ['code' => 'HER.01.1', 'criterion' => 'document_date < 1900'],
                    ],
                ],
            ),
        ),
    ],
    'another kind' => [
        fn (Tests\TestCase $t) => $t->putJson('/api/design/fields/author', [...$t->drafted('fields', 'author'), 'kind' => 'number']),
    ],
    'fields merged' => [fn (Tests\TestCase $t) => $t->postJson('/api/design/merge-fields', ['from' => 'boat', 'into' => 'vessel'])],
    'merged into a new field' => [
        function (Tests\TestCase $t) {
            $t->postJson('/api/design/fields', ['code' => 'craft', 'label' => 'Craft', 'kind' => 'text'])->assertCreated();

            return $t->postJson('/api/design/merge-fields', ['from' => 'boat', 'into' => 'craft']);
        },
    ],
]);

it('brings every change of values back, twice, and counts what that brings back', function (Closure $change) {
    $this->as('librarian')
        ->postJson('/api/design/fields', ['code' => 'boat', 'label' => 'Boat', 'kind' => 'text'])
        ->assertCreated();
    $type = $this->drafted('types', 'photograph');
    $this->putJson('/api/design/types/photograph', [
        ...$type,
        'fields' => [...$type['fields'], ['code' => 'boat', 'required' => true]],
    ])->assertOk();
    $first = $this->publish('Boats')->assertCreated()->json('number');
    $this->filed('x', 'old.txt', 'plan', ['place' => ['Quay'], 'document_date' => ['1890'], 'subject' => ['HER.01.1']], 'plans');
    $this->filed(
        'x',
        'new.txt',
        'plan',
        ['place' => ['Quay'], 'document_date' => ['1950'], 'subject' => ['HER.03', 'HER.04', 'HER.01.1']],
        'plans',
    );
    $this->filed('x', 'log.txt', 'passage_log', ['document_date' => ['2024'], 'author' => ['0012']], 'harbour');
    $this->filed('x', 'boat.txt', 'photograph', ['place' => ['Quay'], 'boat' => ['Fathom']], 'voices');
    $this->filed('x', 'both.txt', 'photograph', ['place' => ['Quay'], 'vessel' => ['Sorrel'], 'boat' => ['Tern']], 'voices');
    $values = everyValue();

    $change($this->as('librarian'))->assertSuccessful();
    $second = $this->publish('Changed')->assertCreated()->json('number');
    $changed = everyValue();
    expect($changed)->not->toBe($values);

    foreach ([[$first, $values], [$second, $changed], [$first, $values]] as [$version, $expected]) {
        $this->as('librarian')
            ->postJson("/api/design/versions/{$version}/restore")
            ->assertOk();
        $effects = collect($this->effects());
        expect($effects->where('stops', true)->values()->all())->toBe([]);
        if ($version === $first) {
            expect($effects->firstWhere('effect', 'given_back')['documents'])
                ->toBeGreaterThan(0)
                ->and($effects->firstWhere('effect', 'missing'))
                ->toBeNull();
        }
        $this->publish("Back to {$version}")->assertCreated();
        expect(everyValue())->toBe($expected);
    }
})->with('changes of values');

it('leaves what people changed in between, and stops for a term that they gave', function () {
    $sheet = fn (string $subject): array => ['place' => ['Quay'], 'document_date' => ['1890'], 'subject' => [$subject]];
    [$old, $later, $given] = [
        $this->filed('x', 'old.txt', 'plan', $sheet('HER.01.1'), 'plans'),
        $this->filed('x', 'later.txt', 'plan', $sheet('HER.01.1'), 'plans'),
        null,
    ];
    $this->as('librarian')
        ->putJson('/api/design/views/permits', [...$this->drafted('views', 'permits'), 'name' => 'Permits'])
        ->assertOk();
    $first = $this->publish('Before')->json('number');
    $this->as('librarian')
        ->putJson(
            '/api/design/vocabularies/subject',
            changedTerms(
                $this->drafted('vocabularies', 'subject'),
                [],
                [
                    [
                        'code' => 'early',
                        'label' => 'Early plans',
                        'parent' => 'HER.01',
                        'from' => ['code' => 'HER.01.1', 'criterion' => 'document_date < 1900'],
                    ],
                ],
            ),
        )
        ->assertOk();
    $this->publish('Split')->assertCreated();
    $given = $this->filed('x', 'given.txt', 'plan', $sheet('early'), 'plans');
    $this->as('clerk')
        ->putJson("/api/documents/{$later}", [
            'type' => 'plan',
            'values' => $sheet('HER.03'),
            'lock_version' => $this->getJson("/api/documents/{$later}")->json('lock_version'),
        ])
        ->assertOk();

    $this->as('librarian')
        ->postJson("/api/design/versions/{$first}/restore")
        ->assertOk();
    $effects = collect($this->effects())->keyBy('effect');
    expect($effects['given_back'])
        ->toMatchArray(['documents' => 1, 'what' => 'given back the Subject that they had'])
        ->and(array_column($effects['given_back']['rows'], 'ref'))
        ->toBe([$old])
        ->and($effects['lost']['documents'])
        ->toBe(1)
        ->and(array_column($effects['lost']['rows'], 'ref'))
        ->toBe([$given]);
    $this->publish()->assertUnprocessable();
    $this->as('clerk')
        ->putJson("/api/documents/{$given}", ['type' => 'plan', 'values' => $sheet('HER.04'), 'lock_version' => 1])
        ->assertOk();
    $this->publish('Back')->assertCreated();
    expect([valuesOf($old, 'subject'), valuesOf($later, 'subject'), valuesOf($given, 'subject')])->toBe([
        ['HER.01.1'],
        ['HER.03'],
        ['HER.04'],
    ]);
});

it('publishes a new field, its vocabulary, a type, a view and a rule of it at once', function () {
    $this->as('librarian');
    $make = fn (string $kind, array $content) => $this->postJson("/api/design/{$kind}", $content)->assertCreated();
    $make('vocabularies', ['code' => 'grades_of_risk', 'name' => 'Grades of risk', 'terms' => [['code' => 'high', 'label' => 'High', 'parent' => null]]]);
    $make('fields', ['code' => 'risk', 'label' => 'Risk', 'kind' => 'choice', 'vocabulary' => 'grades_of_risk', 'faceted' => true]);
    $make('types', ['code' => 'risk_note', 'name' => 'Risk note', 'title' => 'Risk {risk}', 'fields' => [['code' => 'risk', 'required' => true]]]);
    $criterion = fn (array $more) => $this->postJson('/api/search/criterion', ['field' => 'risk', 'relation' => 'is', 'values' => ['high'], ...$more]);
    $criterion([])->assertUnprocessable();
    $cql = $criterion(['draft' => true])->assertOk()->json('cql');
    expect($cql)->toBe('risk == high');
    $this->postJson('/api/search', ['words' => $cql, 'draft' => true])->assertOk()->assertJsonPath('ledger.0.value', 'High');
    $make('views', ['code' => 'risks', 'name' => 'Risks', 'criterion' => "{$cql} and type == risk_note", 'columns' => ['risk']]);
    // The draft’s own types can be asked for, and nobody else’s answer has them.
    $types = fn (array $design): array => array_column(collect($design['system_fields'])->firstWhere('code', 'type')['terms'], 'code');
    expect($types($this->getJson('/api/design/draft')->json('design')))
        ->toContain('risk_note')
        ->and($types($this->getJson('/api/design')->json()))
        ->not->toContain('risk_note');
    $make('access', ['code' => 'risky', 'name' => 'Risky', 'criterion' => $cql, 'groups' => ['Records office'], 'acts' => ['see']]);
    $this->publish('Risk')->assertCreated();
    expect($this->search(['words' => 'risk == high'])->assertOk()->json('total'))->toBe(0);
    // Who does not design has nothing of a draft.
    $this->postJson('/api/design/fields', ['code' => 'later', 'label' => 'Later', 'kind' => 'text'])->assertCreated();
    $this->as('reader')
        ->postJson('/api/search/criterion', ['field' => 'later', 'relation' => 'is', 'values' => ['x'], 'draft' => true])
        ->assertUnprocessable();
});
