<?php

declare(strict_types=1);

use App\Models\Delivery;
use App\Models\PullList;
use App\Models\User;
use App\Retrieve\DeliveryMaker;
use Illuminate\Testing\TestResponse;

beforeEach(function () {
    $this->minute = $this->filed(
        'The board met about the quay.',
        'm.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    $this->notice = $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', [
        'waterway' => ['tarn-sea'],
        'document_date' => ['2024'],
    ]);
    /** A list of the librarian with both documents, which the reader may change. */
    $this->shared = function (): int {
        $id = $this->as('librarian')
            ->postJson('/api/lists', ['name' => 'Quay'])
            ->json('id');
        $this->postJson("/api/lists/{$id}/documents", ['documents' => [$this->minute, $this->notice]])->assertOk();
        PullList::query()
            ->findOrFail($id)
            ->people()
            ->sync([User::query()->where('sign_in', 'reader')->value('id') => ['may_change' => true]]);

        return $id;
    };
    /** What is answered, without the name that was asked for. */
    $this->told = fn (TestResponse $answer, string $name): array => [
        $answer->status(),
        preg_replace(
            ['/"(took_ms|[a-z ]+)":\d+(\.\d+)?(?=[,}])/', '/"at":"[^"]*"/'],
            '',
            str_replace($name, '…', (string) $answer->getContent()),
        ),
    ];
});

it('answers a name that somebody may not know of as one that never was', function (string $field, string $secret) {
    $this->as('reader');
    $asked = [
        fn (string $name) => $this->postJson('/api/search', ['criteria' => [['cql' => "{$field} == {$name}"]]]),
        fn (string $name) => $this->postJson('/api/search', ['words' => "{$field} == {$name}"]),
        fn (string $name) => $this->postJson('/api/search', ['criteria' => [['cql' => "{$field} <> {$name}", 'on' => false]]]),
        fn (string $name) => $this->postJson('/api/criterion', ['field' => $field, 'relation' => 'is', 'values' => [$name]]),
        fn (string $name) => $this->postJson('/api/search/apart', [
            'cql' => "{$field} == {$name} or {$field} == waterways",
            'negated' => false,
        ]),
        fn (string $name) => App\Models\SavedSearch::query()->delete() >= 0
            ? $this->postJson('/api/searches', ['name' => 'x', 'search' => ['criteria' => [['cql' => "{$field} == {$name}"]]]])
            : null,
    ];
    foreach ($asked as $i => $ask) {
        $invented = 'zq'.substr($secret, 2);
        expect(($this->told)($ask($secret), $secret))->toBe(($this->told)($ask($invented), $invented), "asking {$i}");
    }
})->with([['library', 'board'], ['type', 'minute'], ['repository', 'board'], ['type', 'legal_advice'], ['library', 'BOARD']]);

it('still lets those search by a name who may know of it', function () {
    $search = fn (string $who) => $this->as($who)->postJson('/api/search', ['criteria' => [['cql' => 'library == board']]]);
    expect($search('librarian')->assertOk()->json('total'))->toBe(1);
    expect(
        $this->as('reader')
            ->postJson('/api/search', ['criteria' => [['cql' => 'library == waterways']]])
            ->assertOk()
            ->json('total'),
    )->toBe(1);
});

it('lists no view in which there is nothing for a person, and no search that names what they do not know of', function () {
    $this->as('librarian')
        ->postJson('/api/searches', [
            'name' => 'Minutes',
            'search' => ['criteria' => [['cql' => 'type == minute']]],
            'groups' => ['Everyone'],
        ])
        ->assertCreated();
    $this->postJson('/api/searches', [
        'name' => 'Notices',
        'search' => ['criteria' => [['cql' => 'type == stoppage_notice']]],
        'groups' => ['Everyone'],
    ])->assertCreated();
    $this->postJson('/api/searches', [
        'name' => 'Off',
        'search' => ['criteria' => [['cql' => 'urgent == 1 or library == board', 'on' => false]]],
        'groups' => ['Everyone'],
    ])->assertCreated();
    $this->postJson('/api/searches', [
        'name' => 'Prefixed',
        'search' => ['criteria' => [['cql' => '> x="info:srw/cql-context-set/1/dc-v1.1" (x.type == minute)']]],
        'groups' => ['Everyone'],
    ])->assertCreated();
    expect(array_column($this->as('reader')->getJson('/api/searches')->json('searches'), 'name'))->toBe(['Notices']);
    $desk = $this->getJson('/api/desk')->assertOk();
    expect(array_column($desk->json('searches'), 'name'))
        ->toBe(['Notices'])
        ->and($desk->json('views'))
        ->not->toHaveKey('board');
    expect(array_column($this->as('librarian')->getJson('/api/searches')->json('searches'), 'name'))->toBe([
        'Minutes',
        'Notices',
        'Off',
        'Prefixed',
    ]);
});

it('shares searches and lists only within one’s own groups, and tells no other names', function () {
    $share = fn (string $group) => $this->as('reader')->postJson('/api/searches', [
        'name' => 'x',
        'search' => ['words' => 'sluice'],
        'groups' => [$group],
    ]);
    expect(($this->told)($share('Board office'), 'Board office'))->toBe(($this->told)($share('Nobody here'), 'Nobody here'));
    $share('Board office')->assertUnprocessable();
    $share('Everyone')->assertCreated();
    $alone = User::query()->create(['name' => 'Alone', 'sign_in' => 'alone', 'role' => 'reader', 'password' => 'x']);
    $list = $this->as('reader')
        ->postJson('/api/lists', ['name' => 'Mine'])
        ->json();
    $with = fn (string $who) => $this->putJson("/api/lists/{$list['id']}", [
        'name' => 'Mine',
        'lock_version' => 1,
        'people' => [['sign_in' => $who]],
    ]);
    expect(($this->told)($with($alone->sign_in), 'alone'))->toBe(($this->told)($with('nobod'), 'nobod'));
    $with('clerk')->assertOk()->assertJsonPath('people.0.sign_in', 'clerk');
});

it('answers for a hidden document of a shared list as for one that is not in it', function () {
    $list = ($this->shared)();
    $this->as('reader');
    foreach ([$this->minute, 'D-99999-X'] as $ref) {
        $this->putJson("/api/lists/{$list}/documents/{$ref}", ['note' => 'x'])->assertNotFound();
        $this->postJson("/api/lists/{$list}/take-out", ['documents' => [$ref]])->assertOk();
    }
    $this->putJson("/api/lists/{$list}/documents/{$this->notice}", ['note' => 'mine', 'before' => $this->minute])->assertOk();
    expect(
        $this->as('librarian')
            ->getJson("/api/lists/{$list}")
            ->json('documents'),
    )->toBe(2);
});

it('shows of a shared list only one’s own deliveries', function () {
    $list = ($this->shared)();
    $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'zip'])->assertCreated();
    expect($this->getJson("/api/lists/{$list}")->json('deliveries'))
        ->toHaveCount(1)
        ->and(
            $this->as('reader')
                ->getJson("/api/lists/{$list}")
                ->json('deliveries'),
        )
        ->toBe([]);
});

it('asks for the rights of a delivery’s maker each time it is fetched', function () {
    $list = $this->as('clerk')
        ->postJson('/api/lists', ['name' => 'Notices'])
        ->json('id');
    $other = $this->filed('The weir is low.', 'w.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$this->notice, $other]])->assertOk();
    $id = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'zip'])
        ->assertCreated()
        ->json('id');
    $delivery = Delivery::query()->findOrFail($id);
    $delivery->state === Delivery::DONE || app(DeliveryMaker::class)->make($delivery);
    $this->get("/api/deliveries/{$id}/file")->assertOk();
    $address = (string) parse_url(
        (string) $this->postJson("/api/deliveries/{$id}/links", ['most_uses' => 9, 'days' => 3])
            ->assertCreated()
            ->json('address'),
        PHP_URL_PATH,
    );
    $this->post($address)->assertOk();
    // One of the two goes out of the clerk’s sight.
    $this->as('librarian')->putJson("/api/documents/{$other}", [
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['tarn-sea'], 'document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'lock_version' => 2,
    ]);
    App\Models\Document::query()->where('ref', $other)->firstOrFail()->delete();
    app()->forgetScopedInstances();
    $this->as('clerk')
        ->getJson("/api/deliveries/{$id}/file")
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'may not take away any more'));
    $this->post($address)->assertNotFound();
    $this->postJson("/api/deliveries/{$id}/links", ['most_uses' => 9, 'days' => 3])->assertUnprocessable();
    expect(array_column($this->getJson("/api/deliveries/{$id}")->json('contents'), 'ref'))->toBe([$this->notice]);
});

it('puts into a bag only the history that its maker may read', function () {
    $bag = function (string $who, string $form = 'plain'): string {
        $list = $this->as($who)
            ->postJson('/api/lists', ['name' => 'Bag'])
            ->json('id');
        $this->postJson("/api/lists/{$list}/documents", ['documents' => [$this->notice]])->assertOk();
        $id = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'bag', 'form' => $form])
            ->assertCreated()
            ->json('id');
        $delivery = Delivery::query()->findOrFail($id);
        $delivery->state === Delivery::DONE || app(DeliveryMaker::class)->make($delivery);
        $zip = new ZipArchive();
        $zip->open(Delivery::folder().'/'.$delivery->refresh()->file);
        for ($i = 0; $i < $zip->numFiles; $i++) {
            if (str_ends_with((string) $zip->getNameIndex($i), 'metadata/history.jsonl')) {
                return (string) $zip->getFromIndex($i);
            }
        }

        return '';
    };
    expect($bag('clerk'))->toContain('"filed"')->and($bag('manager'))->toContain('"filed"')->and($bag('reader'))->toBe('');
    // Beside a redacted copy goes no history, in whose notes the words may be.
    $places = $this->as('librarian')
        ->postJson("/api/documents/{$this->notice}/redactions/find", ['words' => ['sluice']])
        ->json('places');
    $this->postJson("/api/documents/{$this->notice}/redactions", ['version' => 1, 'reason' => 'security', 'marks' => $places])->assertOk();
    expect($bag('manager', 'redacted'))->toBe('')->and($bag('manager'))->toContain('"redacted"');
});

it('takes removed words out of the names of a document, and puts them back with the words', function () {
    $ref = $this->filed('Osric Vane leaked the plans of the weir.', 'letter of Osric Vane.txt', 'stoppage_notice', [
        'waterway' => ['tarn-sea'],
        'document_date' => ['2024'],
    ]);
    $title = $this->as('librarian')
        ->getJson("/api/documents/{$ref}")
        ->json('title');
    $places = $this->postJson("/api/documents/{$ref}/redactions/find", ['words' => ['Osric Vane']])->json('places');
    $this->postJson("/api/documents/{$ref}/redactions", ['version' => 1, 'reason' => 'personal', 'marks' => $places])->assertOk();
    $ids = array_column($this->getJson("/api/documents/{$ref}/redactions")->json('redactions'), 'id');
    app()->forgetScopedInstances();
    foreach (['reader', 'manager', 'librarian'] as $who) {
        expect(
            json_encode(
                $this->as($who)
                    ->getJson("/api/documents/{$ref}")
                    ->json(),
            ),
        )
            ->not->toContain('Osric')
            ->and(
                json_encode(
                    $this->search(['words' => 'weir', 'columns' => ['file_name', 'title'], 'snippets' => false], $who)->json('rows'),
                ),
            )
            ->not->toContain('Osric');
    }
    expect($this->search(['words' => 'osric'], 'reader')->json('total'))
        ->toBe(0)
        ->and($this->search(['words' => 'file_name = osric'], 'reader')->json('total'))
        ->toBe(0)
        ->and(
            $this->as('reader')
                ->get("/api/documents/{$ref}/file?download=1")
                ->assertOk()
                ->headers->get('Content-Disposition'),
        )
        ->not->toContain('Osric')
        ->toContain($ref);
    expect(
        json_encode(
            $this->as('librarian')
                ->getJson("/api/documents/{$ref}/history")
                ->json(),
        ),
    )
        ->toContain('names cleared')
        ->not->toContain('Osric');
    $this->postJson("/api/documents/{$ref}/redactions/take-back", ['redactions' => $ids])->assertOk();
    expect($this->getJson("/api/documents/{$ref}")->json())
        ->toMatchArray(['file_name' => 'letter of Osric Vane.txt', 'title' => $title])
        ->and($this->search(['words' => 'file_name = osric'], 'reader')->json('total'))
        ->toBe(1);
});

it('keeps a removed word from one’s own mark on it', function () {
    $this->as('reader')
        ->postJson("/api/documents/{$this->notice}/annotations", ['page' => 1, 'kind' => 'highlight', 'start' => 4, 'length' => 6])
        ->assertCreated()
        ->assertJsonPath('exact', 'sluice');
    $places = $this->as('librarian')
        ->postJson("/api/documents/{$this->notice}/redactions/find", ['words' => ['sluice']])
        ->json('places');
    $this->postJson("/api/documents/{$this->notice}/redactions", ['version' => 1, 'reason' => 'security', 'marks' => $places])->assertOk();
    app()->forgetScopedInstances();
    expect(
        $this->as('reader')
            ->getJson("/api/documents/{$this->notice}/annotations")
            ->json('annotations.0.exact'),
    )
        ->toBe('████')
        ->and(json_encode($this->getJson("/api/documents/{$this->notice}/annotations")->json()))
        ->not->toContain('sluice');
});

it('tells no sensitive value by groups, sums, facets or completion, for none of these is a recorded reveal', function () {
    $this->filed(
        'A permit',
        'p.txt',
        'mooring_permit',
        ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Marigold Ash'], 'holder' => ['Osric Vane']],
        'harbour',
    );
    $this->as('clerk');
    $this->postJson('/api/search/groups', ['words' => '', 'level' => 'holder'])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'sensitive'));
    foreach (['osr', 'holder = osr', 'Osric V'] as $typed) {
        expect(
            json_encode(
                $this->postJson('/api/search/complete', ['typed' => $typed])
                    ->assertOk()
                    ->json('values'),
            ),
        )->not->toContain('Vane');
    }
    expect(
        json_encode(
            $this->postJson('/api/search', ['words' => 'permit', 'facets' => [['field' => 'holder']]])
                ->assertOk()
                ->json('facets'),
        ),
    )
        ->not->toContain('Vane')
        ->and($this->postJson('/api/search', ['words' => 'holder = osric'])->json('total'))
        ->toBe(1);
});
