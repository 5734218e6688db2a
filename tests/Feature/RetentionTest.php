<?php

declare(strict_types=1);

use App\Index\Indexer;
use App\Models\Document;
use Illuminate\Support\Facades\DB;

it('tells of each document how long it is kept, by which rule and why, and finds it by that', function () {
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy', 'authority' => 'Schedule 4']);
    [$old, $new] = [stoppageOf('2001'), stoppageOf('2024-03-05')];
    expect(keptAs($old))->toMatchArray([
        'state' => 'dated',
        'due' => '2008-12-31',
        'action' => 'Destroy',
        'reason' => 'by type Stoppage notice, 7 years after Document date',
    ])->and(keptAs($old)['rules'][0]['authority'])->toBe('Schedule 4');
    expect(foundBy('retention_due <= 2020'))->toBe([$old])
        ->and(foundBy('retention_due = 2031-03'))->toBe([$new])
        ->and(foundBy('retention_action == destroy'))->toHaveCount(2)
        ->and(foundBy('retention_rule == "type.stoppage_notice"'))->toHaveCount(2)
        ->and(foundBy('retention == no_rule'))->toBe([]);
    $facets = array_column($this->search([])->json('facets'), null, 'field');
    expect($facets['retention']['values'][0])->toMatchArray(['value' => 'dated', 'count' => 2]);
    $this->artisan('brenvic:check')->assertSuccessful();
});

it('keeps due dates true whatever changes', function () {
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
    $ref = stoppageOf('2001');
    $document = Document::query()->where('ref', $ref)->firstOrFail();
    $this->as('clerk')->putJson("/api/documents/{$ref}", [
        'type' => 'stoppage_notice',
        'values' => ['document_date' => ['2015-06-01'], 'waterway' => ['tarn-sea']],
        'lock_version' => $document->lock_version,
    ])->assertOk();
    expect(foundBy('retention_due == 2022-06-01'))->toBe([$ref]);
    // The rule itself: no text is read again, and the index is as if all had been.
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 0, 'months' => 6, 'from' => 'year', 'action' => 'review']);
    expect(foundBy('retention_due == 2016-06-30 and retention_action == review'))->toBe([$ref]);
    typeKeeps('stoppage_notice', null);
    expect(foundBy('retention == no_rule'))->toBe([$ref]);
    $this->artisan('brenvic:check')->assertSuccessful();
});

it('has a number of its own for a date that is missing', function () {
    typeKeeps('stoppage_notice', ['after' => 'valid_until', 'years' => 1, 'action' => 'destroy']);
    $ref = stoppageOf('2001');
    expect(keptAs($ref)['state'])->toBe('no_date')->and(keptAs($ref)['reason'])->toContain('without Valid until');
    $due = $this->as('manager')->getJson('/api/oversight/due')->assertOk()->json();
    expect(array_column($due['states'], 'documents', 'state'))->toMatchArray(['no_date' => 1, 'dated' => 0])
        ->and(array_sum(array_map(static fn (array $period): int => array_sum($period['counts']), $due['periods'])))->toBe(0);
});

it('counts from the closing of a dossier, and no more when it is opened again', function () {
    typeKeeps('stoppage_notice', ['after' => 'dossier_closed', 'years' => 2, 'action' => 'destroy']);
    $ref = stoppageOf('2001');
    $kind = $this->as('clerk')->getJson('/api/design')->json('dossier_kinds.0.code');
    $dossier = App\Models\Dossier::query()->create(['library_id' => $this->libraryId('waterways'), 'kind' => $kind, 'title' => 'A case']);
    DB::table('document_dossier')->insert(['document_id' => Document::query()->where('ref', $ref)->value('id'), 'dossier_id' => $dossier->id]);
    app(Indexer::class)->update([Document::query()->where('ref', $ref)->firstOrFail()->id]);
    expect(keptAs($ref)['state'])->toBe('waiting');
    $this->as('reader')->putJson("/api/dossiers/{$dossier->refresh()->ref}/closed", ['closed' => true])->assertForbidden();
    $this->as('clerk')->putJson("/api/dossiers/{$dossier->ref}/closed", ['closed' => true])->assertOk()->assertJsonPath('closed_at', fn (?string $at): bool => $at !== null);
    $due = now()->addYears(2)->toDateString();
    expect(keptAs($ref)['due'])->toBe($due)->and(foundBy("retention_due == {$due}"))->toBe([$ref]);
    $other = stoppageOf('2002');
    $this->as('clerk')->postJson("/api/dossiers/{$dossier->ref}/documents", ['documents' => [$other]])
        ->assertStatus(422)
        ->assertJsonPath('error.message', "The dossier {$dossier->ref} is closed. Open it again before anything is put into it.");
    $this->putJson("/api/dossiers/{$dossier->ref}/closed", ['closed' => false])->assertOk();
    expect(keptAs($ref)['state'])->toBe('waiting')->and(foundBy('retention == waiting'))->toContain($ref);
});

it('falls due when a newer one takes its place', function () {
    $type = $this->drafted('types', 'stoppage_notice');
    $this->as('librarian')->putJson('/api/design/types/stoppage_notice', [
        ...$type,
        'fields' => [...$type['fields'], ['code' => 'supersedes']],
        'retention' => ['after' => 'superseded', 'of' => 'supersedes', 'years' => 1, 'action' => 'destroy'],
    ])->assertOk();
    $this->publish()->assertCreated();
    $old = stoppageOf('2001');
    expect(keptAs($old)['state'])->toBe('waiting');
    stoppageOf('2002', ['supersedes' => [$old]]);
    $due = now()->addYear()->toDateString();
    expect(keptAs($old)['due'])->toBe($due)->and(foundBy("retention_due == {$due}"))->toBe([$old]);
    // The newer one names it no more: that is seen when all of them are looked at, once a day.
    $newer = Document::query()->latest('id')->firstOrFail();
    $this->as('clerk')->putJson("/api/documents/{$newer->ref}", [
        'type' => 'stoppage_notice',
        'values' => ['document_date' => ['2002'], 'waterway' => ['tarn-sea']],
        'lock_version' => $newer->lock_version,
    ])->assertOk();
    app()->forgetScopedInstances();
    expect(app(App\Oversight\Superseded::class)->look())->toBe(2)->and(foundBy("retention_due == {$due}"))->toBe([]);
});

it('is put off, begun anew, and exempt by decision, with a reason on record', function () {
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
    $ref = stoppageOf('2001');
    $decide = fn (array $of) => $this->as('manager')->postJson("/api/documents/{$ref}/retention", $of);
    $decide(['decision' => 'postpone', 'day' => '2031-01-01', 'reason' => ' '])->assertStatus(422);
    $decide(['decision' => 'postpone', 'reason' => 'A claim'])->assertStatus(422)->assertJsonPath('error.message', 'Give a day.');
    $decide(['decision' => 'postpone', 'day' => '2031-01-01', 'reason' => 'A claim'])->assertOk()->assertJsonPath('due', '2031-01-01');
    expect(foundBy('retention_due == 2031-01-01'))->toBe([$ref]);
    $decide(['decision' => 'exempt', 'reason' => 'The flood of that year'])->assertOk()->assertJsonPath('state', 'lifted');
    $decide(['decision' => 'as_ruled', 'reason' => 'Copied to the archive'])->assertOk()->assertJsonPath('due', '2008-12-31');
    $decide(['decision' => 'begin_anew', 'day' => '2020-05-05', 'reason' => 'Renewed'])->assertOk()->assertJsonPath('due', '2027-05-05');
    $this->as('clerk')->postJson("/api/documents/{$ref}/retention", ['decision' => 'exempt', 'reason' => 'x'])->assertForbidden();
    expect(DB::table('history')->where('act', 'retention_decided')->count())->toBe(4);
    $this->artisan('brenvic:history:verify')->assertSuccessful();
});

it('shows the effect of a rule before it is published', function () {
    stoppageOf('2001');
    stoppageOf('2024');
    $this->as('librarian')->putJson('/api/design/types/stoppage_notice', [
        ...$this->drafted('types', 'stoppage_notice'),
        'retention' => ['after' => 'document_date', 'years' => 7, 'action' => 'destroy'],
    ])->assertOk();
    $effects = array_column($this->effects(), null, 'what');
    expect($effects['due this quarter, or already'])->toMatchArray(['documents' => 1])
        ->and($effects['due this quarter, or already']['rows'][0]['title'])->toContain('2001')
        ->and($effects['due later, without a date before']['documents'])->toBe(1);
});

it('does not name a rule to who may not know what it speaks of', function () {
    typeKeeps('byelaw', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
    $terms = fn (string $by): array => array_column(
        collect($this->as($by)->getJson('/api/design')->json('system_fields'))->firstWhere('code', 'retention_rule')['terms'],
        'code',
    );
    expect($terms('librarian'))->toContain('type.byelaw')->and($terms('reader'))->not->toContain('type.byelaw');
});

it('lists what is due by quarter, library and rule, of what a person may see', function () {
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
    stoppageOf('2001');
    stoppageOf(now()->subYears(7)->format('Y-m'));
    stoppageOf(now()->format('Y-m'));
    $due = $this->as('manager')->getJson('/api/oversight/due')->assertOk()->json();
    $counts = array_map(static fn (array $period): int => $period['counts']['destroy'], $due['periods']);
    expect([$counts[0], $counts[1], end($counts)])->toBe([1, 1, 1])
        ->and($due['libraries'])->toHaveCount(1)
        ->and($due['rules'][0])->toMatchArray(['code' => 'type.stoppage_notice', 'documents' => 3]);
    $period = $this->getJson("/api/oversight/due/period?action=destroy&until={$due['periods'][0]['until']}")->assertOk()->json();
    expect($period['documents'])->toBe(1)->and($period['rules'][0]['documents'])->toBe(1);
    $this->as('reader')->getJson('/api/oversight/due')->assertForbidden();
});
