<?php

declare(strict_types=1);

use App\Access\Holds;
use App\Models\Document;
use App\Models\Hold;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;

/** @param  array<string, mixed>  $more */
function held(array $more = [], string $by = 'manager'): TestResponse
{
    return test()->as($by)->postJson('/api/holds', ['name' => 'The breach', 'reason' => 'A claim is expected.', ...$more]);
}

/** @return array<string, array<string, mixed>> what a hold covers, by reference */
function heldBy(int $hold, string $by = 'manager'): array
{
    return array_column(test()->as($by)->getJson("/api/holds/{$hold}/documents")->assertOk()->json('items'), null, 'ref');
}

function removedBy(string $ref, string $by = 'librarian'): TestResponse
{
    return test()->as($by)->postJson('/api/removed', ['documents' => [$ref], 'reason' => 'Filed twice']);
}

it('covers chosen documents with a name, a reason and an owner, and stops what would take them away', function () {
    [$a, $b] = [stoppageOf('2001'), stoppageOf('2002')];
    held(['name' => ' '])->assertStatus(422);
    held(['until' => '2001-01-01'])->assertStatus(422)->assertJsonPath('error.message', 'It cannot end before it begins.');
    $hold = held(['documents' => [$a]])->assertCreated()->json();
    expect($hold)->toMatchArray(['owner' => 'Corin Bexley', 'in_force' => true, 'documents' => 1])
        ->and(heldBy($hold['id'])[$a])->toMatchArray(['why' => 'chosen', 'says' => 'Chosen by Corin Bexley']);
    removedBy($a)->assertStatus(422)->assertJsonPath('error.message', fn (string $says): bool => str_contains($says, 'On hold: A claim is expected.'));
    removedBy($b)->assertOk();
    expect($this->as('clerk')->getJson("/api/documents/{$a}")->json('holds'))->toBe(['A claim is expected.']);
    $this->as('manager')->postJson("/api/holds/{$hold['id']}/release", ['documents' => [$a]])->assertOk()->assertJsonPath('documents', 0);
    removedBy($a)->assertOk();
    expect(DB::table('history')->whereIn('act', ['held', 'released'])->pluck('act')->all())->toBe(['held', 'released']);
});

it('goes on covering what a search finds, and lets nothing go that was covered', function () {
    $old = stoppageOf('2001', [], 'The wharfinger’s account of the slip.');
    $other = stoppageOf('2002', [], 'Nothing of the kind.');
    $hold = held(['search' => ['words' => 'wharfinger', 'any' => false, 'criteria' => [], 'view' => '', 'where' => []]])->assertCreated()->json();
    expect(array_keys(heldBy($hold['id'])))->toBe([$old])->and(heldBy($hold['id'])[$old]['says'])->toBe('Found by the search');
    $fresh = stoppageOf('2003', [], 'Another wharfinger, another day.');
    expect(array_keys(heldBy($hold['id'])))->toBe([$old, $fresh]);
    removedBy($fresh)->assertStatus(422);
    removedBy($other)->assertOk();
    // What is not found any more stays covered.
    DB::table('pages')->where('document_id', Document::query()->where('ref', $old)->value('id'))->update(['text' => 'Blank']);
    app(App\Index\Indexer::class)->update([(int) Document::query()->where('ref', $old)->value('id')]);
    expect(array_keys(heldBy($hold['id'])))->toBe([$old, $fresh]);
    held(['search' => ['words' => '', 'criteria' => []]])->assertStatus(422);
    held(['search' => ['words' => '', 'criteria' => [['cql' => 'pull_list = x']]]])->assertStatus(422);
});

it('covers what came in before anybody can take it away, though nobody has looked yet', function () {
    $hold = held(['search' => ['words' => 'wharfinger', 'any' => false, 'criteria' => [], 'view' => '', 'where' => []]])->assertCreated()->json('id');
    Illuminate\Support\Facades\Queue::fake([App\Holds\LookForHeld::class]);
    $ref = stoppageOf('2001', [], 'A wharfinger.');
    expect(DB::table('hold_items')->where('hold_id', $hold)->count())->toBe(0);
    removedBy($ref)->assertStatus(422);
});

it('keeps covered what is covered twice when one ends', function () {
    $ref = stoppageOf('2001');
    $id = (int) Document::query()->where('ref', $ref)->value('id');
    $first = held(['documents' => [$ref]])->json('id');
    $list = $this->as('librarian')->postJson('/api/lists', ['name' => 'Claim'])->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref]]);
    $second = held(['name' => 'An inquiry', 'reason' => 'An inquiry.', 'list' => $list], 'librarian')->assertCreated()->json();
    expect($second['list'])->toMatchArray(['name' => 'Claim', 'own' => true])
        ->and(heldBy($second['id'])[$ref])->toMatchArray(['why' => 'list', 'others' => ['The breach']])
        ->and(Holds::on($id))->toBe(['A claim is expected.', 'An inquiry.']);
    $end = fn (int $hold, array $of) => $this->as('manager')->postJson("/api/holds/{$hold}/end", $of);
    $end($first, ['reason' => ''])->assertStatus(422)->assertJsonPath('error.message', 'Say why it ends. It stands in the history.');
    $end($first, ['reason' => 'Settled'])->assertOk()->assertJsonPath('in_force', false)->assertJsonPath('end_reason', 'Settled');
    $end($first, ['reason' => 'Again'])->assertStatus(422);
    expect(Holds::on($id))->toBe(['An inquiry.'])
        ->and(heldBy($first)[$ref]['why'])->toBe('chosen');
    removedBy($ref)->assertStatus(422);
    $end($second['id'], ['reason' => 'Closed'])->assertOk();
    removedBy($ref)->assertOk();
});

it('holds from a day until a day', function () {
    $ref = stoppageOf('2001');
    $id = (int) Document::query()->where('ref', $ref)->value('id');
    held(['documents' => [$ref], 'from' => now()->addDays(2)->toDateString(), 'until' => now()->addDays(5)->toDateString()])
        ->assertCreated()
        ->assertJsonPath('in_force', false);
    $on = static function (int $days) use ($id): bool {
        Carbon::setTestNow(now()->addDays($days));
        $held = Holds::of([$id]) !== [];
        Carbon::setTestNow();

        return $held;
    };
    expect([$on(0), $on(1), $on(2), $on(5), $on(6)])->toBe([false, false, true, true, false]);
});

it('tells its custodians, who say that they know of it', function () {
    $ref = stoppageOf('2001');
    $hold = held(['documents' => [$ref], 'custodians' => ['clerk', 'reader']])->assertCreated()->json();
    expect(array_column($hold['people'], 'acknowledged_at', 'sign_in'))->toBe(['clerk' => null, 'reader' => null])->and($hold['acknowledged'])->toBe(0);
    expect($this->as('clerk')->getJson('/api/notices')->json('notices.0'))->toMatchArray(['kind' => 'hold', 'link' => "/oversight/holds/{$hold['id']}"]);
    // A custodian knows of this hold, and of no other.
    $other = held(['name' => 'Another', 'reason' => 'Other.'])->json('id');
    expect($this->as('clerk')->getJson('/api/holds')->json('holds'))->toHaveCount(1);
    $this->getJson("/api/holds/{$other}")->assertNotFound();
    $this->getJson("/api/holds/{$hold['id']}")->assertOk()->assertJsonPath('to_acknowledge', true)->assertJsonPath('may_change', false);
    $this->postJson("/api/holds/{$hold['id']}/end", ['reason' => 'x'])->assertForbidden();
    $this->postJson("/api/holds/{$hold['id']}/acknowledge")->assertOk()->assertJsonPath('to_acknowledge', false)->assertJsonPath('acknowledged', 1);
    $this->postJson("/api/holds/{$hold['id']}/acknowledge")->assertOk();
    expect(DB::table('history')->where('act', 'hold_acknowledged')->count())->toBe(1);
    $this->as('manager')->postJson("/api/holds/{$hold['id']}/remind")->assertOk()->assertJsonPath('told', 1);
    expect($this->as('reader')->getJson('/api/notices')->json('notices'))->toHaveCount(2);
    $change = ['name' => 'The breach of 2019', 'reason' => 'A claim.', 'until' => null, 'owner' => 'librarian', 'custodians' => ['reader']];
    $this->as('manager')->putJson("/api/holds/{$hold['id']}", [...$change, 'lock_version' => 99])->assertStatus(409);
    $this->putJson("/api/holds/{$hold['id']}", [...$change, 'lock_version' => 1])->assertOk()->assertJsonPath('owner', 'Ottoline Marsh');
    $this->as('clerk')->getJson("/api/holds/{$hold['id']}")->assertNotFound();
    $this->as('manager')->postJson("/api/holds/{$hold['id']}/end", ['reason' => 'Settled'])->assertOk();
    expect($this->as('reader')->getJson('/api/notices')->json('notices.0.says'))->toBe('The hold “The breach of 2019” has ended: Settled');
});

it('is a field to search by, for those who may know of it', function () {
    [$ref] = [stoppageOf('2001'), stoppageOf('2002')];
    $hold = held(['documents' => [$ref]])->json('id');
    expect(foundBy("hold = {$hold}", 'manager'))->toBe([$ref])->and(foundBy('hold = "The breach"', 'librarian'))->toBe([$ref]);
    $facets = array_column($this->search([], 'manager')->json('facets'), null, 'field');
    expect($facets['hold']['values'][0])->toMatchArray(['label' => 'The breach', 'count' => 1]);
    $seen = array_column($this->search([], 'reader')->json('facets'), null, 'field');
    expect($seen['hold']['values'] ?? [])->toBe([])->and(foundBy("hold = {$hold}", 'reader'))->toBe([]);
});

it('shows of a hold only documents that a person may see', function () {
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $ref = stoppageOf('2001');
    $hold = held(['documents' => [$secret, $ref], 'custodians' => ['clerk']], 'librarian')->assertCreated()->json();
    expect($hold['documents'])->toBe(2);
    expect(array_keys(heldBy($hold['id'], 'clerk')))->toBe([$ref])
        ->and($this->getJson("/api/holds/{$hold['id']}")->json())->toMatchArray(['documents' => 1]);
});
