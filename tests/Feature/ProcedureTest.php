<?php

declare(strict_types=1);

use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Procedures\Deadlines;
use Demo\Procedures;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

beforeEach(function () {
    Procedures::install();
});

/** A tender that is filed. */
function tenderOf(int $amount, array $more = []): string
{
    return test()->filed(
        "Tender for the sill of lock {$amount}. All works as described.",
        "tender-{$amount}.txt",
        'tender',
        ['contractor' => ['Holm Brothers'], 'amount' => [(string) $amount], ...$more],
        'works',
    );
}

/** @return array<string, mixed> where a document stands in its first procedure */
function standingOf(string $ref, string $by = 'librarian'): array
{
    return test()->as($by)->getJson("/api/documents/{$ref}/cases")->assertOk()->json('cases.0');
}

/** The one task of a document. */
function taskOf(string $ref): int
{
    $document = Document::query()->where('ref', $ref)->firstOrFail();

    return Task::query()->where('document_id', $document->id)->whereNull('closed_at')->sole()->id;
}

/** @param  array<string, mixed>  $more */
function decided(string $by, int $task, string $decision, array $more = []): Illuminate\Testing\TestResponse
{
    return test()->as($by)->postJson("/api/tasks/{$task}/decide", ['decision' => $decision, ...$more]);
}

it('takes a tender above the limit to the manager, stamps it, puts it into its dossier and keeps it from being changed', function () {
    $ref = tenderOf(48_000);
    expect(standingOf($ref))->toMatchArray(['status' => 'waiting', 'waits_for' => ['Works office'], 'step' => ['code' => 'check', 'name' => 'Checked by the works office']]);
    $task = taskOf($ref);
    $shown = $this->as('works')->getJson("/api/tasks/{$task}")->assertOk();
    expect($shown->json('decisions.0.leads'))->toBe(['Decided by the manager'])->and($shown->json('hindrance'))->toBeNull();
    decided('works', $task, 'complete', ['comment' => 'As agreed.'])->assertOk()->assertJsonPath('case.waits_for', ['Corin Bexley']);
    $mine = $this->as('manager')->getJson('/api/tasks?part=mine')->assertOk();
    expect($mine->json('tasks.0.document.ref'))->toBe($ref)->and($mine->json('counts.mine'))->toBe(1);
    decided('manager', taskOf($ref), 'accept')->assertOk();
    $standing = standingOf($ref);
    expect($standing)->toMatchArray(['status' => 'ended', 'step' => ['code' => 'accepted', 'name' => 'Accepted'], 'fault' => '']);
    $record = array_column($standing['record'], 'says');
    expect(implode(' · ', $record))->toContain('Complete', 'Accept', 'Stamped “Accepted”', 'Created DS-', 'Retention begins', 'Version 1 locked');
    $document = Document::query()->where('ref', $ref)->firstOrFail();
    expect(DB::table('document_dossier')->where('document_id', $document->id)->count())->toBe(1)
        ->and($document->kept_from)->toBe(now()->toDateString());
    $stamp = DB::table('annotations')->where('document_id', $document->id)->where('kind', 'stamp')->sole();
    expect($stamp->text)->toContain('Accepted')->toContain('Corin Bexley');
    $this->as('clerk')->putJson("/api/documents/{$ref}", ['type' => 'tender', 'values' => ['contractor' => ['Other']], 'lock_version' => $document->lock_version])
        ->assertStatus(422)
        ->assertJsonPath('error.message', 'Locked by the procedure “Tender”.');
});

it('keeps a small tender in the works office, of two people', function () {
    $ref = tenderOf(12_000);
    decided('works', taskOf($ref), 'complete')->assertOk();
    $task = taskOf($ref);
    expect(standingOf($ref)['step']['code'])->toBe('order');
    // Four eyes: whoever checked it does not order it.
    decided('works', $task, 'accept')->assertStatus(422)->assertJsonPath('error.code', 'refused');
    expect($this->as('works')->getJson('/api/tasks?part=groups')->json('total'))->toBe(0)
        ->and($this->as('engineer')->getJson('/api/tasks?part=groups')->json('total'))->toBe(1);
    decided('engineer', $task, 'accept')->assertOk();
    expect(standingOf($ref)['status'])->toBe('ended');
});

it('finds documents by where they stand, and counts it in the margins', function () {
    $open = tenderOf(48_000);
    $done = tenderOf(10_000);
    decided('works', taskOf($done), 'return', ['comment' => 'Drawings are missing.'])->assertOk();
    expect(ProcedureCase::query()->count())->toBe(2);
    foreach ([
        'procedure == tender' => [$open, $done],
        'procedure_step == tender.check' => [$open],
        'procedure_step == tender.returned' => [$done],
        'procedure_decision == tender.return' => [$done],
        'waits_for == "Works office"' => [$open],
        'step_since > 2020-01-01' => [$open, $done],
    ] as $cql => $refs) {
        $matching = app(App\Access\Rights::class)->allMatching($cql)->documents();
        expect(Document::query()->findMany($matching)->pluck('ref')->sort()->values()->all())->toBe(collect($refs)->sort()->values()->all(), $cql);
    }
});

it('tells the second of two who decide at once, and changes nothing', function () {
    $ref = tenderOf(48_000);
    $task = taskOf($ref);
    decided('works', $task, 'return', ['comment' => 'Drawings are missing.'])->assertOk();
    decided('engineer', $task, 'complete')
        ->assertStatus(422)
        ->assertJsonPath('error.message', 'Perpetua Lamb decided “Return to the contractor” in the meantime. Your decision was not made.');
    expect(standingOf($ref)['step']['code'])->toBe('returned');
});

it('takes a task, puts it back, gives it on, asks and answers', function () {
    $ref = tenderOf(48_000);
    $task = taskOf($ref);
    $this->as('works')->postJson("/api/tasks/{$task}/take")->assertOk()->assertJsonPath('mine', true);
    expect(standingOf($ref)['waits_for'])->toBe(['Perpetua Lamb']);
    decided('engineer', $task, 'complete')->assertStatus(422);
    $this->as('works')->postJson("/api/tasks/{$task}/put-back")->assertOk()->assertJsonPath('holder', null);
    $this->as('works')->postJson("/api/tasks/{$task}/give", ['to' => 'engineer', 'note' => 'You know the lock.'])->assertOk();
    expect($this->as('engineer')->getJson('/api/notices')->json('notices.0.says'))->toContain('Perpetua Lamb gave you')->toContain('You know the lock.');
    $this->as('engineer')->postJson("/api/tasks/{$task}/ask", ['to' => 'clerk', 'text' => 'Where are the drawings?'])->assertOk();
    expect($this->as('clerk')->getJson('/api/tasks?part=mine')->json('tasks.0.is_question'))->toBeTrue();
    $this->as('works')->postJson("/api/tasks/{$task}/answer", ['text' => 'Here.'])->assertStatus(422);
    $this->as('clerk')->postJson("/api/tasks/{$task}/answer", ['text' => 'In the plan chest.'])->assertOk();
    expect($this->as('engineer')->getJson('/api/notices')->json('notices.0.says'))->toContain('In the plan chest.');
    // Whoever filed it does not get it.
    $this->as('engineer')->postJson("/api/tasks/{$task}/give", ['to' => 'clerk'])->assertStatus(422);
});

it('has the fields of a step filled by whoever is asked, and wants those that the decision needs', function () {
    $ref = test()->filed('Tender without a price.', 'tender.txt', 'tender', ['contractor' => ['Holm Brothers']], 'works');
    $task = taskOf($ref);
    decided('works', $task, 'complete')->assertStatus(422)->assertJsonPath('error.fields.amount', 'Amount needs a value for this decision.');
    decided('works', $task, 'complete', ['values' => ['amount' => ['a lot']]])->assertStatus(422);
    // Fields that the step does not name stay as they are.
    decided('works', $task, 'complete', ['values' => ['amount' => ['52000'], 'contractor' => ['Somebody else']]])->assertOk();
    $sheet = $this->as('librarian')->getJson("/api/documents/{$ref}")->json('values');
    expect($sheet['amount'][0]['value'])->toStartWith('52000')->and($sheet['contractor'][0]['value'])->toBe('Holm Brothers');
    // What was filled in decides where it goes.
    expect(standingOf($ref)['step']['code'])->toBe('manager');
});

it('is for the keepers once whoever had it is gone, and says so', function () {
    $ref = tenderOf(48_000);
    decided('works', taskOf($ref), 'complete')->assertOk();
    expect(standingOf($ref)['waits_for'])->toBe(['Corin Bexley']);
    $manager = User::query()->where('sign_in', 'manager')->firstOrFail();
    $this->as('admin')->postJson("/api/office/people/{$manager->id}/out", ['to' => User::query()->where('sign_in', 'librarian')->value('id')])->assertOk();
    $standing = standingOf($ref);
    expect($standing['waits_for'])->toBe(['Records office'])
        ->and(array_column($standing['record'], 'says'))->toContain('Corin Bexley is gone; it is for others now');
});

it('reminds, says what is overdue, and gives it on as the procedure says', function () {
    DB::table('procedure_versions')->update(['at' => '2026-01-01 00:00:00']);
    Carbon::setTestNow('2026-03-02 09:00');
    $ref = test()->filed('Lock 4 is closed.', 'stop.txt', 'stoppage_notice', ['document_date' => ['2026-03-01'], 'waterway' => ['tarn-sea']]);
    expect(Task::query()->sole()->due)->toBe('2026-03-04');
    $check = static fn (string $at): int => tap(0, static fn () => Carbon::setTestNow($at)) + app(Deadlines::class)->check();
    expect($check('2026-03-02 18:00'))->toBe(0)->and($check('2026-03-03 08:00'))->toBe(1)->and($check('2026-03-03 09:00'))->toBe(0);
    expect($this->as('works')->getJson('/api/notices')->json('notices.0.kind'))->toBe('reminder');
    expect($check('2026-03-05 08:00'))->toBe(1)->and($check('2026-03-05 09:00'))->toBe(0);
    expect(standingOf($ref))->toMatchArray(['overdue' => true, 'waits_for' => ['Corin Bexley']]);
    expect($this->as('manager')->getJson('/api/notices')->json('notices.0.kind'))->toBe('overdue');
    Carbon::setTestNow();
});

it('stops visibly where it cannot go on, and goes on when somebody has seen to it', function () {
    $ref = tenderOf(48_000);
    // Nobody could decide: the manager is gone before it comes to them.
    User::query()->where('sign_in', 'manager')->update(['out_of_use_at' => now()]);
    decided('works', taskOf($ref), 'complete')->assertOk();
    $standing = standingOf($ref);
    expect($standing['status'])->toBe('stopped')->and($standing['fault'])->toContain('Nobody can act in “Decided by the manager”');
    expect($this->as('clerk')->getJson('/api/tasks?part=others')->json('stopped.0.document.ref'))->toBe($ref)
        ->and($this->as('clerk')->getJson('/api/notices')->json('notices.0.kind'))->toBe('stopped');
    $this->as('works')->postJson("/api/cases/{$standing['id']}/go-on")->assertForbidden();
    $this->as('clerk')->postJson("/api/cases/{$standing['id']}/go-on")->assertOk()->assertJsonPath('cases.0.status', 'stopped');
    User::query()->where('sign_in', 'manager')->update(['out_of_use_at' => null]);
    $this->as('clerk')->postJson("/api/cases/{$standing['id']}/go-on")->assertOk()->assertJsonPath('cases.0.waits_for', ['Corin Bexley']);
    $this->as('clerk')->postJson("/api/cases/{$standing['id']}/move", ['step' => 'order'])->assertOk()->assertJsonPath('cases.0.step.code', 'order');
    $this->as('clerk')->postJson("/api/cases/{$standing['id']}/cancel", ['reason' => 'Withdrawn by the contractor.'])
        ->assertOk()
        ->assertJsonPath('cases.0.status', 'given_up');
    $this->as('clerk')->postJson("/api/documents/{$ref}/cases", ['procedure' => 'tender'])->assertCreated();
});

it('shows nobody a task about what they may not see', function () {
    $ref = test()->filed(
        'Tender for the board room.',
        'board.txt',
        'tender',
        ['contractor' => ['Holm Brothers'], 'amount' => ['48000']],
        'works',
        'librarian',
    );
    $task = taskOf($ref);
    DB::table('group_library')->where('library_id', $this->libraryId('works'))->delete();
    app()->forgetScopedInstances();
    $this->as('works')->getJson("/api/tasks/{$task}")->assertNotFound();
    decided('works', $task, 'complete')->assertNotFound();
    expect($this->as('works')->getJson('/api/tasks?part=groups')->json('counts'))->toMatchArray(['mine' => 0, 'groups' => 0, 'others' => 0]);
    expect($this->as('works')->getJson('/api/counts')->json('tasks.groups'))->toBe(0);
});

it('begins when a criterion comes true, once each time, and not with what was there before', function () {
    $before = tenderOf(1_000);
    $this->as('librarian')->postJson('/api/design/procedures', [
        'code' => 'large',
        'name' => 'Large sums',
        'begins' => 'when',
        'criterion' => 'amount > 900000',
        'keepers' => 'Records office',
        'steps' => [
            [
                'code' => 'look',
                'name' => 'Looked at',
                'kind' => 'ask',
                'who' => [['kind' => 'group', 'value' => 'Records office']],
                'question' => 'Is that a slip of the key?',
                'decisions' => [['code' => 'no', 'label' => 'It is right', 'ways' => [['to' => 'done']]]],
            ],
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ],
    ])->assertCreated();
    $this->publish()->assertCreated();
    $large = static fn (): int => ProcedureCase::query()->where('procedure', 'large')->count();
    $set = function (string $amount) use ($before): void {
        app()->forgetScopedInstances();
        $lock = Document::query()->where('ref', $before)->value('lock_version');
        $this->as('clerk')->putJson("/api/documents/{$before}", [
            'type' => 'tender',
            'values' => ['contractor' => ['Holm Brothers'], 'amount' => [$amount]],
            'lock_version' => $lock,
        ])->assertOk();
        app()->forgetScopedInstances();
    };
    expect($large())->toBe(0);
    $set('950000');
    expect($large())->toBe(1);
    $set('960000');
    expect($large())->toBe(1);
    ProcedureCase::query()->where('procedure', 'large')->update(['status' => 'ended']);
    $set('5');
    expect($large())->toBe(1);
    $set('970000');
    expect($large())->toBe(2);
});
