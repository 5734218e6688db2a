<?php

declare(strict_types=1);

use App\Models\User;

/** A pull list of somebody with some documents. */
function listOf(string $name, array $documents, string $by = 'clerk'): int
{
    $list = (int) test()->as($by)->postJson('/api/lists', ['name' => $name])->assertCreated()->json('id');
    if ($documents !== []) {
        test()->postJson("/api/lists/{$list}/documents", ['documents' => $documents])->assertSuccessful();
    }

    return $list;
}

/** @return array<string, int> the lists that a search counts, by name */
function listsCounted(string $by, array $search = []): array
{
    $facet = collect(test()->search(['words' => '', 'criteria' => [], ...$search], $by)->assertOk()->json('facets'))->firstWhere('field', 'pull_list');

    return collect($facet['values'] ?? [])->pluck('count', 'label')->all();
}

function listed(string $cql, string $by = 'clerk'): array
{
    $answer = test()->search(['words' => '', 'criteria' => [['cql' => $cql]]], $by)->assertOk();

    return collect($answer->json('rows'))->pluck('ref')->sort()->values()->all();
}

beforeEach(function () {
    foreach (['one', 'two', 'three', 'four'] as $i => $word) {
        $this->refs[$word] = $this->filed("The {$word} breach at the aqueduct", "{$word}.txt", 'stoppage_notice', ['document_date' => ['2024-01-0'.($i + 1)], 'waterway' => ['tarn-sea']]);
    }
});

it('counts the lists that documents are in as a facet, and finds by them', function () {
    ['one' => $one, 'two' => $two, 'three' => $three] = $this->refs;
    $breach = listOf('Breach of 1987', [$one, $two]);
    $claims = listOf('Claims', [$two, $three]);
    expect(listsCounted('clerk'))->toBe(['Breach of 1987' => 2, 'Claims' => 2]);
    expect(listed("pull_list == {$breach}"))->toBe(collect([$one, $two])->sort()->values()->all());
    // By its name, in both, in one only, in none.
    expect(listed('pull_list == "breach of 1987" and pull_list == claims'))->toBe([$two]);
    expect(listed("pull_list == {$breach} not pull_list == {$claims}"))->toBe([$one]);
    expect(listed('pull_list == ""'))->toBe([$this->refs['four']]);
    expect(listsCounted('clerk', ['criteria' => [['cql' => 'text = two']]]))->toBe(['Breach of 1987' => 1, 'Claims' => 1]);
    // What is added, and what is taken out, counts at once.
    $this->as('clerk')->postJson("/api/lists/{$claims}/documents", ['documents' => [$this->refs['four']]])->assertSuccessful();
    expect(listsCounted('clerk')['Claims'])->toBe(3)->and(listed("pull_list == {$claims}"))->toHaveCount(3);
});

it('compares two lists, as far as one may see them', function () {
    ['one' => $one, 'two' => $two, 'three' => $three] = $this->refs;
    $breach = listOf('Breach of 1987', [$one, $two]);
    $claims = listOf('Claims', [$two, $three, $this->refs['four']]);
    $this->getJson("/api/lists/{$breach}/against/{$claims}")->assertOk()->assertExactJson(['both' => 1, 'here' => 1, 'there' => 2]);
    $theirs = listOf('Of the reader', [$one], 'reader');
    $this->as('clerk')->getJson("/api/lists/{$breach}/against/{$theirs}")->assertNotFound();
    $this->as('reader')->getJson("/api/lists/{$breach}/against/{$theirs}")->assertNotFound();
    $this->as('manager')->postJson('/api/removed', ['documents' => [$two], 'reason' => 'A double'])->assertOk();
    $this->as('clerk')->getJson("/api/lists/{$breach}/against/{$claims}")->assertExactJson(['both' => 0, 'here' => 1, 'there' => 2]);
});

it('can be what a saved search and another list go by', function () {
    $breach = listOf('Breach of 1987', [$this->refs['one'], $this->refs['two']]);
    $search = ['words' => '', 'criteria' => [['cql' => "pull_list == {$breach} and text = two"]], 'where' => []];
    $other = listOf('Claims', []);
    $this->postJson("/api/lists/{$other}/documents", ['search' => $search])->assertSuccessful()->assertJsonPath('added', 1);
    $groups = $this->search(['words' => '', 'criteria' => [], 'view' => null], 'clerk')->assertOk();
    expect($groups->json('total'))->toBe(4);
    $this->as('clerk')->postJson('/api/search/themes', ['words' => '', 'criteria' => [['cql' => "pull_list == {$breach}"]]])->assertOk();
    $this->as('clerk')->postJson('/api/search/groups', ['words' => '', 'criteria' => [], 'level' => 'pull_list'])->assertOk()->assertJsonPath('groups.0.label', 'Breach of 1987');
});

it('is a column that names them', function () {
    listOf('Breach of 1987', [$this->refs['one']]);
    listOf('Claims', [$this->refs['one']]);
    $rows = $this->search(['words' => '', 'criteria' => [], 'columns' => ['pull_list']], 'clerk')->assertOk()->json('rows');
    $cells = collect($rows)->mapWithKeys(static fn (array $row): array => [$row['ref'] => $row['cells']['pull_list'] ?? ''])->all();
    expect($cells[$this->refs['one']])->toBe('Breach of 1987, Claims')->and($cells[$this->refs['two']])->toBe('');
});

it('is of those alone who made a list or share it, and of what they may see', function () {
    $list = listOf('Breach of 1987', [$this->refs['one'], $this->refs['two']]);
    expect(listsCounted('librarian'))->toBe([])->and(listsCounted('reader'))->toBe([]);
    $this->search(['words' => '', 'criteria' => [['cql' => "pull_list == {$list}"]]], 'librarian')->assertOk()->assertJsonPath('total', 0);
    $shown = $this->as('clerk')->getJson("/api/lists/{$list}")->json();
    $this->putJson("/api/lists/{$list}", ['name' => 'Breach', 'lock_version' => $shown['lock_version'], 'people' => [['sign_in' => 'librarian', 'may_change' => false]]])->assertSuccessful();
    expect(listsCounted('librarian'))->toBe(['Breach' => 2])->and(listsCounted('manager'))->toBe([]);
    // Who looks through the eyes of another sees their own lists, and not the other’s.
    listOf('Of the reader', [$this->refs['one']], 'reader');
    $as = $this->search(['words' => '', 'criteria' => [], 'as' => 'reader'], 'librarian');
    expect(json_encode($as->json()))->not->toContain('Of the reader');
    // A document that is removed counts nowhere.
    $this->as('manager')->postJson('/api/removed', ['documents' => [$this->refs['one']], 'reason' => 'A double'])->assertOk();
    expect(listsCounted('librarian'))->toBe(['Breach' => 1]);
    $this->as('clerk')->deleteJson("/api/lists/{$list}")->assertSuccessful();
    expect(listsCounted('librarian'))->toBe([])->and(User::query()->where('sign_in', 'librarian')->exists())->toBeTrue();
});
