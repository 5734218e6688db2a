<?php

declare(strict_types=1);

use App\Models\Document;
use Brenvic\Core\Design\DesignKind;
use Tests\TestCase;

/**
 * Changes of every kind of part that the index could read, each drafted as the interface does.
 *
 * @return array<string, array{DesignKind, Closure(TestCase): mixed}>
 */
function changesOfParts(): array
{
    $put = static fn (string $kind, string $code, array $more): Closure => static fn (TestCase $t) => $t
        ->as('librarian')
        ->putJson("/api/design/{$kind}/{$code}", [...$t->drafted($kind, $code), ...$more]);
    $terms = static fn (string $code, Closure $change): Closure => static function (TestCase $t) use ($code, $change) {
        $vocabulary = $t->drafted('vocabularies', $code);
        $vocabulary['terms'] = array_values(array_filter(array_map($change, $vocabulary['terms'])));

        return $t->as('librarian')->putJson("/api/design/vocabularies/{$code}", $vocabulary);
    };

    return [
        'a repository is renamed' => [DesignKind::Repository, $put('repositories', 'operations', ['name' => 'Works and water'])],
        'a library is renamed' => [DesignKind::Library, $put('libraries', 'waterways', ['name' => 'Canals'])],
        'a library is moved' => [DesignKind::Library, $put('libraries', 'waterways', ['repository' => 'heritage'])],
        'a library is moved that its publisher may not enter' => [
            DesignKind::Library,
            function (TestCase $t) {
                $t->as('librarian')
                    ->putJson('/api/design/libraries/waterways', [
                        ...$t->drafted('libraries', 'waterways'),
                        'groups' => [['group' => 'Harbour office', 'change' => true]],
                    ])
                    ->assertOk();
                $t->publish()->assertCreated();

                return $t
                    ->as('librarian')
                    ->putJson('/api/design/libraries/waterways', [...$t->drafted('libraries', 'waterways'), 'repository' => 'heritage']);
            },
        ],
        'a term is renamed' => [
            DesignKind::Vocabulary,
            $terms('condition', static fn (array $t): array => $t['code'] === 'c' ? [...$t, 'label' => 'Middling'] : $t),
        ],
        'a term is called otherwise too' => [
            DesignKind::Vocabulary,
            $terms('condition', static fn (array $t): array => [...$t, 'synonyms' => ["grade {$t['code']}"]]),
        ],
        'a branch is moved' => [
            DesignKind::Vocabulary,
            $terms('waterway', static fn (array $t): array => $t['code'] === 'tarn-sea' ? [...$t, 'parent' => null] : $t),
        ],
        'a term is given another' => [
            DesignKind::Vocabulary,
            $terms('condition', static fn (array $t): array => $t['code'] === 'c' ? [...$t, 'retired' => true, 'replaced_by' => 'd'] : $t),
        ],
        'a field becomes sensitive' => [DesignKind::Field, $put('fields', 'remarks', ['sensitive' => true])],
        'a field is counted no more' => [DesignKind::Field, $put('fields', 'condition', ['faceted' => false])],
        'a field is of another kind' => [DesignKind::Field, $put('fields', 'author', ['kind' => 'text'])],
        'a field has another unit' => [DesignKind::Field, $put('fields', 'silt_depth', ['unit' => 'ft'])],
        'fields are merged' => [
            DesignKind::Field,
            static fn (TestCase $t) => $t
                ->as('librarian')
                ->postJson('/api/design/merge-fields', ['from' => 'author', 'into' => 'inspector']),
        ],
        'a type is renamed' => [DesignKind::Type, $put('types', 'dredging_survey', ['name' => 'Sounding'])],
        'titles are made otherwise' => [
            DesignKind::Type,
            $put('types', 'dredging_survey', ['title_pattern' => 'Sounding {waterway} {condition}']),
        ],
        'a dossier hands nothing down' => [
            DesignKind::DossierKind,
            static function (TestCase $t) {
                $kind = $t->drafted('dossier_kinds', 'asset_file');
                $kind['fields'] = array_map(static fn (array $f): array => [...$f, 'handed_down' => false], $kind['fields']);

                return $t->as('librarian')->putJson('/api/design/dossier_kinds/asset_file', $kind);
            },
        ],
        'a dossier kind is renamed' => [DesignKind::DossierKind, $put('dossier_kinds', 'asset_file', ['name' => 'Plant file'])],
        'a view asks for other documents' => [DesignKind::View, $put('views', 'surveys', ['criterion' => 'type == lock_inspection'])],
        'a form has other fields' => [DesignKind::Form, $put('forms', 'find_inspection', ['fields' => [['code' => 'condition']]])],
        'a table fills in less' => [
            DesignKind::Table,
            $put('tables', 'suppliers', ['fills' => ['contractor'], 'columns' => ['number', 'name']]),
        ],
        'a source is made' => [
            DesignKind::Source,
            static fn (TestCase $t) => $t->as('librarian')->postJson('/api/design/sources', [
                'code' => 'scans',
                'name' => 'Scans',
                'folder' => 'scans',
                'library' => 'harbour',
                'group' => 'Harbour office',
            ]),
        ],
        'a reading rule is made' => [
            DesignKind::Reading,
            static fn (TestCase $t) => $t->as('librarian')->postJson('/api/design/readings', [
                'code' => 'inspected',
                'name' => 'Inspected on',
                'field' => 'document_date',
                'method' => 'position',
                'anchor' => 'Inspected on',
            ]),
        ],
        'a work form is made' => [
            DesignKind::WorkForm,
            static fn (TestCase $t) => $t->as('librarian')->postJson('/api/design/work_forms', [
                'code' => 'report',
                'name' => 'Report',
                'library' => 'harbour',
                'types' => ['incident_report'],
                'fields' => [['code' => 'place']],
                'group' => 'Records office',
            ]),
        ],
        'a procedure is made' => [
            DesignKind::Procedure,
            static fn (TestCase $t) => $t->as('librarian')->postJson('/api/design/procedures', [
                'code' => 'checking',
                'name' => 'Checking',
                'keepers' => 'Records office',
                'steps' => [
                    [
                        'code' => 'look',
                        'name' => 'Look at it',
                        'kind' => 'ask',
                        'who' => [['kind' => 'group', 'value' => 'Harbour office']],
                        'question' => 'Is it right?',
                        'decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]]],
                    ],
                    ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
                ],
            ]),
        ],
        'a rule keeps documents from some' => [
            DesignKind::Access,
            static fn (TestCase $t) => $t->as('librarian')->postJson('/api/design/access', [
                'code' => 'poor',
                'name' => 'Poor',
                'criterion' => 'condition == c',
                'acts' => ['see'],
                'groups' => ['Harbour office'],
            ]),
        ],
    ];
}

it('brings the index to what the design says, whatever was changed in it', function (DesignKind $kind, Closure $change) {
    $survey = [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
        'condition' => ['c'],
        'silt_depth' => ['1.2'],
        'remarks' => ['Soft silt'],
    ];
    $refs = [
        $this->filed('Silt', 'a.txt', 'dredging_survey', $survey),
        $this->filed(
            'Log',
            'b.txt',
            'passage_log',
            ['document_date' => ['2024'], 'author' => ['Ida Fell'], 'waterway' => ['tarn-sea']],
            'harbour',
        ),
        $this->filed('Lock', 'c.txt', 'lock_inspection', [
            'document_date' => ['2024'],
            'structure' => ['LK-0407-5'],
            'condition' => ['c'],
            'inspector' => ['Bo Hart'],
        ]),
        $this->filed('Plan', 'd.txt', 'plan', ['place' => ['Quay']], 'plans', 'librarian'),
    ];
    $values = ['structure' => ['LK-0407-5'], 'waterway' => ['tarn-sea'], 'condition' => ['d']];
    $dossier = $this->as('librarian')
        ->postJson('/api/dossiers', ['kind' => 'asset_file', 'library' => 'waterways', 'values' => $values])
        ->json('ref');
    $this->postJson("/api/dossiers/{$dossier}/documents", ['documents' => $refs])->assertOk();
    $this->artisan('brenvic:check')->assertSuccessful();
    $change($this)->assertSuccessful();
    $this->publish('Changed')->assertCreated();
    $this->artisan('brenvic:check')->assertSuccessful();
    expect(Document::query()->whereIn('ref', $refs)->count())->toBe(4);
})->with(changesOfParts());

it('tries a change of every kind of part', function () {
    $tried = array_map(static fn (array $of): string => $of[0]->value, array_values(changesOfParts()));
    expect(array_values(array_unique($tried)))->toEqualCanonicalizing(
        array_map(static fn (DesignKind $k): string => $k->value, DesignKind::cases()),
    );
});
