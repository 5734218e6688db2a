<?php

declare(strict_types=1);

use App\Destroying\Stub;
use App\Disposal\WorkOnDisposal;
use App\Models\CheckOut;
use App\Models\Disposal;
use App\Models\Document;
use App\Models\User;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Testing\TestResponse;

beforeEach(function () {
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
});

/** Prepares a disposal of what is due by today. */
function prepared(array $more = [], string $by = 'librarian'): TestResponse
{
    return test()->as($by)->postJson('/api/oversight/disposals', [
        'name' => 'Old notices',
        'action' => 'destroy',
        'until' => now()->toDateString(),
        ...$more,
    ]);
}

function disposal(int $id, string $by = 'librarian'): array
{
    return test()->as($by)->getJson("/api/oversight/disposals/{$id}")->assertOk()->json();
}

/** An act on a disposal as it is now. */
function ofDisposal(int $id, string $act, string $by = 'librarian', array $more = []): TestResponse
{
    $lock = disposal($id, $by)['lock_version'];

    return test()->as($by)->postJson("/api/oversight/disposals/{$id}/{$act}", [...$more, 'lock_version' => $lock]);
}

/** @return array<string, array<string, mixed>> its documents by reference */
function itemsOf(int $id, string $which = 'all', string $by = 'librarian'): array
{
    return array_column(test()->as($by)->getJson("/api/oversight/disposals/{$id}/items?which={$which}")->assertOk()->json('items'), null, 'ref');
}

/** A disposal of all that is due, reviewed and approved. */
function carriedOut(): int
{
    $id = prepared()->assertCreated()->json('id');
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    ofDisposal($id, 'submit')->assertOk();
    ofDisposal($id, 'approve', 'manager')->assertOk();

    return $id;
}

it('is prepared, reviewed, approved by a second person and carried out, and certified', function () {
    [$gone, $kept, $later] = [stoppageOf('2001'), stoppageOf('2002'), stoppageOf('2003')];
    $young = stoppageOf('2024');
    $id = prepared()->assertCreated()->json('id');
    expect(disposal($id))->toMatchArray(['state' => 'review', 'prepared_by' => 'Ottoline Marsh'])
        ->and(disposal($id)['counts'])->toMatchArray(['all' => 3, 'undecided' => 3, 'left_out' => 0])
        ->and(array_keys(itemsOf($id)))->not->toContain($young)
        ->and(itemsOf($id)[$gone])->toMatchArray(['due' => '2008-12-31', 'rule' => 'by type Stoppage notice, 7 years after Document date']);
    ofDisposal($id, 'submit')->assertStatus(422)->assertJsonPath('error.message', 'Nothing is decided about 3 documents.');
    ofDisposal($id, 'review', 'librarian', ['documents' => [$kept], 'decision' => 'keep'])->assertStatus(422);
    ofDisposal($id, 'review', 'librarian', ['documents' => [$kept], 'decision' => 'keep', 'reason' => 'The flood'])->assertOk();
    ofDisposal($id, 'review', 'librarian', ['documents' => [$later], 'decision' => 'postpone', 'reason' => 'A claim', 'until' => '2001-01-01'])->assertStatus(422);
    ofDisposal($id, 'review', 'librarian', ['documents' => [$later], 'decision' => 'postpone', 'reason' => 'A claim', 'until' => '2099-01-01'])->assertOk();
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk()->assertJsonPath('counts.released', 1);
    ofDisposal($id, 'submit')->assertOk()->assertJsonPath('state', 'approval');
    // Whoever had a part in it does not approve it, and not everybody may.
    ofDisposal($id, 'approve', 'librarian')->assertForbidden();
    ofDisposal($id, 'approve', 'manager')->assertOk();
    $done = disposal($id);
    expect($done)->toMatchArray(['state' => 'done', 'approved_by' => 'Corin Bexley', 'has_certificate' => true])
        ->and($done['counts'])->toMatchArray(['done' => 1, 'kept' => 1, 'postponed' => 1]);

    expect(keptAs($gone))->toMatchArray(['state' => 'destroyed', 'due' => null])->and(keptAs($gone)['destroyed']['disposal'])->toBe($id);
    expect(keptAs($kept)['state'])->toBe('lifted')->and(keptAs($later)['due'])->toBe('2099-01-01');
    // The stub is found by what the office keeps of it, and by nothing else.
    expect(foundBy('retention == destroyed'))->toBe([$gone])
        ->and(foundBy('document_date = 2001'))->toBe([$gone])
        ->and(foundBy('waterway = tarn-sea'))->not->toContain($gone);
    $record = $this->as('librarian')->getJson("/api/documents/{$gone}")->assertOk()->json();
    expect($record['destroyed_at'])->not->toBeNull()
        ->and($record['may_change'])->toBeFalse()
        ->and($record['why_not'])->toBe('The document was destroyed; what is left of it stays as it is.')
        ->and($record['bytes'])->toBe(0);

    $json = $this->as('manager')->get("/api/oversight/disposals/{$id}/certificate.json")->assertOk()->getContent();
    $says = json_decode((string) $json, true);
    expect(array_column($says['documents'], 'ref'))->toBe([$gone])
        ->and($says['kept'])->toHaveCount(2)
        ->and($says['approved']['by'])->toBe('Corin Bexley')
        ->and($done['certificate_sum'])->toBe(hash('sha256', (string) $json));
    $entry = DB::table('history')->where('id', $done['certificate_entry'])->sole();
    expect(json_decode((string) $entry->detail, true)['sha256'])->toBe($done['certificate_sum'])
        ->and(DB::table('history')->where('id', $says['documents'][0]['entry'])->value('hash'))->toBe($says['documents'][0]['entry_hash']);
    $pdf = (string) $this->get("/api/oversight/disposals/{$id}/certificate.pdf")->assertOk()->getContent();
    file_put_contents($path = tempnam(sys_get_temp_dir(), 'bx'), $pdf);
    expect((string) shell_exec('pdftotext -layout '.escapeshellarg($path).' -'))->toContain($gone)->toContain('Corin Bexley')->toContain($done['certificate_sum']);
    unlink($path);
    $this->artisan('brenvic:history:verify')->assertSuccessful();
    $this->artisan('brenvic:check')->assertSuccessful();
    $this->artisan('brenvic:verify')->assertSuccessful();
});

it('leaves out and names what something stands in the way of', function () {
    $refs = array_map(static fn (int $year): string => stoppageOf((string) $year), range(2001, 2006));
    [$held, $out, $listed, $template, $cased, $free] = $refs;
    $ids = DB::table('documents')->whereIn('ref', $refs)->pluck('id', 'ref');
    $list = $this->as('librarian')->postJson('/api/lists', ['name' => 'Claim'])->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$held]]);
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'A claim'])->assertOk();
    $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    CheckOut::query()->create(['document_id' => $ids[$out], 'user_id' => $clerk->id, 'note' => '', 'since' => now(), 'version' => 1]);
    $wanted = $this->as('clerk')->postJson('/api/lists', ['name' => 'Wanted'])->json('id');
    $this->postJson("/api/lists/{$wanted}/documents", ['documents' => [$listed]]);
    DB::table('documents')->where('id', $ids[$template])->update(['is_template' => true]);
    DB::table('cases')->insert([
        'document_id' => $ids[$cased],
        'procedure' => 'check',
        'procedure_version_id' => DB::table('procedure_versions')->insertGetId(['code' => 'check', 'hash' => 'x', 'content' => '{}', 'at' => now()]),
        'length' => 0,
        'status' => 'waiting',
        'since' => now(),
        'begun_at' => now(),
    ]);
    $id = prepared()->assertCreated()->json('id');
    $left = array_map(static fn (array $item): string => (string) $item['says'], itemsOf($id, 'left_out'));
    expect($left)->toBe([
        $held => 'On hold: A claim',
        $out => 'Checked out by Fenwick Dale',
        $listed => 'On a pull list of Fenwick Dale',
        $template => 'A template',
        $cased => 'In a procedure',
    ])->and(array_keys(itemsOf($id, 'undecided')))->toBe([$free]);
    // What is in one disposal is not in another.
    $other = prepared()->json('id');
    expect(itemsOf($other, 'left_out')[$free]['says'])->toBe('In the disposal “Old notices”');
});

it('looks again when it is carried out: what came in between is left out, and the certificate says so', function () {
    [$gone, $held] = [stoppageOf('2001'), stoppageOf('2002')];
    $id = prepared()->json('id');
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    ofDisposal($id, 'submit')->assertOk();
    $list = $this->as('librarian')->postJson('/api/lists', ['name' => 'Claim'])->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$held]]);
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'A claim'])->assertOk();
    ofDisposal($id, 'approve', 'manager')->assertOk();
    $says = json_decode((string) $this->get("/api/oversight/disposals/{$id}/certificate.json")->getContent(), true);
    expect(array_column($says['documents'], 'ref'))->toBe([$gone])
        ->and($says['left_out'])->toBe([['ref' => $held, 'why' => 'On hold: A claim']])
        ->and(keptAs($held)['state'])->toBe('dated');
});

it('destroys nothing when the clock was set back', function () {
    $ref = stoppageOf('2001');
    $id = prepared()->json('id');
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    ofDisposal($id, 'submit')->assertOk();
    Carbon::setTestNow('2005-01-01 12:00');
    ofDisposal($id, 'approve', 'manager')->assertOk();
    Carbon::setTestNow();
    expect(itemsOf($id, 'left_out')[$ref]['says'])->toBe('Due on 31 Dec 2008')->and(disposal($id)['state'])->toBe('done');
});

it('goes on where it was stopped, and does nothing twice', function () {
    $refs = array_map(static fn (int $year): string => stoppageOf((string) $year), range(2001, 2004));
    Queue::fake();
    $id = prepared()->json('id');
    $work = static fn () => (new WorkOnDisposal($id))->handle(app());
    $work();
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    ofDisposal($id, 'submit')->assertOk();
    ofDisposal($id, 'approve', 'manager')->assertOk();
    // It dies while it is at the second document: what it had begun of that is undone with its transaction.
    $count = 0;
    DB::listen(static function ($query) use (&$count): void {
        if (str_starts_with($query->sql, 'delete from "documents"') && ++$count === 2) {
            throw new RuntimeException('killed');
        }
    });
    expect($work)->toThrow(RuntimeException::class, 'killed');
    DB::getEventDispatcher()->forget(Illuminate\Database\Events\QueryExecuted::class);
    expect(DB::table('disposal_items')->where('disposal_id', $id)->where('state', 'done')->count())->toBe(1)
        ->and(DB::table('history')->where('act', 'destroyed')->count())->toBe(1)
        ->and(disposal($id)['state'])->toBe('running')
        ->and(WorkOnDisposal::unfinished(now()->addMinute()))->toBe([$id]);
    $work();
    $says = json_decode((string) Disposal::query()->findOrFail($id)->certificate, true);
    expect(array_column($says['documents'], 'ref'))->toBe($refs)
        ->and(DB::table('history')->where('act', 'destroyed')->count())->toBe(4)
        ->and(DB::table('history')->where('act', 'certified')->count())->toBe(1);
    $work();
    expect(DB::table('history')->where('act', 'certified')->count())->toBe(1);
    $this->artisan('brenvic:history:verify')->assertSuccessful();
});

it('hands over in a bag, and destroys only after the receipt is recorded', function () {
    typeKeeps('stoppage_notice', ['after' => 'document_date', 'years' => 7, 'action' => 'hand_over']);
    $ref = stoppageOf('2001');
    $id = prepared(['action' => 'hand_over'])->assertCreated()->json('id');
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    ofDisposal($id, 'submit')->assertOk();
    ofDisposal($id, 'approve', 'manager')->assertOk();
    $of = disposal($id);
    expect($of['state'])->toBe('receipt')->and($of['bag'])->not->toBeNull()->and(keptAs($ref)['state'])->toBe('dated');
    $zip = new ZipArchive;
    $path = App\Models\Delivery::folder().'/'.App\Models\Delivery::query()->findOrFail($of['bag'])->file;
    expect($zip->open($path))->toBeTrue()->and($zip->locateName('bagit.txt', ZipArchive::FL_NODIR))->not->toBeFalse();
    ofDisposal($id, 'receipt', 'librarian', ['receipt' => ' '])->assertStatus(422);
    ofDisposal($id, 'receipt', 'librarian', ['receipt' => 'County archive, accession 2026/114'])->assertOk();
    expect(disposal($id)['state'])->toBe('done')->and(keptAs($ref)['state'])->toBe('destroyed')
        ->and(is_file($path))->toBeFalse();
    $says = json_decode((string) $this->get("/api/oversight/disposals/{$id}/certificate.json")->getContent(), true);
    expect($says['receipt'])->toMatchArray(['text' => 'County archive, accession 2026/114', 'by' => 'Ottoline Marsh']);
});

it('is sent back, cancelled, and not changed by who saw an older state', function () {
    stoppageOf('2001');
    $id = prepared()->json('id');
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    $this->as('librarian')->postJson("/api/oversight/disposals/{$id}/submit", ['lock_version' => 1])->assertStatus(409);
    ofDisposal($id, 'submit')->assertOk();
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertStatus(422);
    ofDisposal($id, 'return', 'manager', ['reason' => 'Look at 2001 again'])->assertOk()->assertJsonPath('says', 'Look at 2001 again');
    ofDisposal($id, 'cancel')->assertOk()->assertJsonPath('state', 'cancelled');
    ofDisposal($id, 'cancel')->assertStatus(422);
    expect(prepared(['until' => '1990-01-01'])->json('id'))->toBeGreaterThan($id);
    expect(Disposal::query()->latest('id')->firstOrFail()->says)->toBe('Nothing was due.');
});

it('takes attachments with their mail, and no attachment alone', function () {
    $mail = stoppageOf('2001');
    $parent = Document::query()->where('ref', $mail)->firstOrFail();
    $attached = stoppageOf('2002');
    Document::query()->where('ref', $attached)->update(['parent_id' => $parent->id]);
    $young = stoppageOf('2003');
    $late = stoppageOf('2024');
    Document::query()->where('ref', $late)->update(['parent_id' => Document::query()->where('ref', $young)->value('id')]);
    $id = carriedOut();
    $says = json_decode((string) $this->get("/api/oversight/disposals/{$id}/certificate.json")->getContent(), true);
    expect(array_column($says['documents'], 'rule', 'ref'))->toBe([$mail => 'by type Stoppage notice, 7 years after Document date', $attached => "attached to {$mail}"])
        ->and(array_column($says['left_out'], 'why', 'ref')[$young])->toStartWith('An attachment cannot go: Due on')
        ->and(keptAs($attached)['state'])->toBe('destroyed');
});

it('leaves of a document what the office says, and no sensitive value', function () {
    $this->as('manager')->putJson('/api/oversight/stub', ['title' => true, 'fields' => ['holder']])
        ->assertStatus(422)
        ->assertJsonPath('error.message', 'Holder is sensitive: its values do not stay of what is destroyed.');
    $this->putJson('/api/oversight/stub', ['title' => false, 'fields' => ['waterway']])->assertOk();
    expect(Stub::now()->fields)->toBe(['waterway']);
    $this->as('librarian')->putJson('/api/oversight/stub', ['title' => true, 'fields' => []])->assertForbidden();
    $ref = stoppageOf('2001');
    carriedOut();
    $record = $this->as('reader')->getJson("/api/documents/{$ref}")->assertOk()->json();
    expect($record['title'])->toBe('Stoppage notice')->and(array_keys($record['values']))->toBe(['waterway'])
        ->and($record['file_name'])->toBe('');
});

it('tells of documents, and certifies them, only to those who may see them', function () {
    typeKeeps('byelaw', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
    $ref = stoppageOf('2001');
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2001'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    DB::table('roles')->where('code', 'reader')->update(['rights' => json_encode(['read', 'remove', 'destroy', 'oversee'])]);
    app()->forgetScopedInstances();
    $id = prepared()->assertCreated()->json('id');
    ofDisposal($id, 'review', 'librarian', ['decision' => 'release'])->assertOk();
    ofDisposal($id, 'submit')->assertOk();
    expect(array_keys(itemsOf($id)))->toContain($ref, $secret)->and(array_keys(itemsOf($id, 'all', 'reader')))->toBe([$ref]);
    expect(disposal($id, 'reader'))->toMatchArray(['why_not_approve' => 'You may not see all of its documents. Someone who does approves it.'])
        ->and(disposal($id, 'reader')['counts']['all'])->toBe(1);
    ofDisposal($id, 'approve', 'reader')->assertStatus(422);
    ofDisposal($id, 'approve', 'manager')->assertOk();
    expect(disposal($id, 'reader'))->toMatchArray(['state' => 'done', 'has_certificate' => false, 'certificate_sum' => null, 'certificate_entry' => null])
        ->and(disposal($id, 'manager')['has_certificate'])->toBeTrue();
    foreach (['json', 'pdf'] as $form) {
        $this->as('reader')->get("/api/oversight/disposals/{$id}/certificate.{$form}")->assertNotFound();
        $this->as('manager')->get("/api/oversight/disposals/{$id}/certificate.{$form}")->assertOk();
    }
    // What the history says of the disposal tells of no number.
    $said = DB::table('history')->where('act', 'disposal_prepared')->value('detail');
    expect(array_keys((array) json_decode((string) $said, true)))->toBe(['disposal', 'name']);
});

it('keeps what is left of a document from whom the document was kept', function () {
    typeKeeps('incident_report', ['after' => 'document_date', 'years' => 7, 'action' => 'destroy']);
    $incident = fn (string $severity, string $text): string => $this->filed($text, "{$severity}.txt", 'incident_report', [
        'document_date' => ['2001'],
        'severity' => [$severity],
        'vessel' => ["Vessel {$severity}"],
    ], 'harbour');
    $minor = $incident('minor', 'The otter came alongside.');
    $critical = $incident('critical', 'The otter ran aground.');
    $told = $incident('serious', 'A witness asked for her name to be kept.');
    $rule = ['acts' => ['see'], 'groups' => ['Records office', 'Board office']];
    $this->as('librarian')->postJson('/api/design/access', [...$rule, 'code' => 'critical', 'name' => 'Critical', 'criterion' => 'severity == critical'])->assertCreated();
    $this->postJson('/api/design/access', [...$rule, 'code' => 'told', 'name' => 'Told', 'criterion' => 'witness and severity <> minor'])->assertCreated();
    $this->publish()->assertCreated();
    $sees = fn (string $who): array => array_column($this->search(['words' => 'cql.allRecords = 1'], $who)->json('rows'), 'ref');
    expect($sees('reader'))->toBe([$minor])->and($sees('manager'))->toHaveCount(3);
    $id = carriedOut();
    app()->forgetScopedInstances();
    expect($sees('reader'))->toBe([$minor])->and($sees('manager'))->toEqualCanonicalizing([$minor, $critical]);
    // The value that a rule asks for stays, that of no other field.
    expect(array_keys($this->as('manager')->getJson("/api/documents/{$critical}")->assertOk()->json('values')))->toEqualCanonicalizing(['document_date', 'severity']);
    $this->as('reader')->getJson("/api/documents/{$critical}")->assertNotFound();
    // What a word kept from people cannot be kept from them without the word: nothing is left of it but the certificate.
    $this->as('manager')->getJson("/api/documents/{$told}")->assertNotFound();
    $says = json_decode((string) $this->get("/api/oversight/disposals/{$id}/certificate.json")->assertOk()->getContent(), true);
    expect(array_column($says['documents'], 'ref'))->toEqualCanonicalizing([$minor, $critical, $told]);
});

it('refuses every act on what was destroyed', function () {
    $ref = stoppageOf('2001');
    carriedOut();
    $document = Document::query()->where('ref', $ref)->firstOrFail();
    $this->as('clerk')->putJson("/api/documents/{$ref}", ['type' => 'stoppage_notice', 'values' => [], 'lock_version' => $document->lock_version])->assertStatus(422);
    $this->as('librarian')->postJson('/api/removed', ['documents' => [$ref], 'reason' => 'x'])->assertStatus(422);
    $this->as('clerk')->postJson("/api/documents/{$ref}/check-out", ['note' => ''])->assertStatus(422);
    $this->as('manager')->postJson("/api/documents/{$ref}/retention", ['decision' => 'exempt', 'reason' => 'x'])->assertStatus(422);
    $this->as('clerk')->postJson("/api/documents/{$ref}/comments", ['text' => 'x'])->assertStatus(422);
    $this->get("/api/documents/{$ref}/file")->assertStatus(422);
    expect(array_column($this->as('manager')->getJson("/api/documents/{$ref}/history")->assertOk()->json('history'), 'act'))->toContain('destroyed');
});
