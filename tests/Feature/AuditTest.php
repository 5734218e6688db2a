<?php

declare(strict_types=1);

use App\Audit\Heads;
use App\History\Act;
use App\History\History;
use App\History\Readers;
use App\Models\Document;
use App\Models\User;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * @param  array<string, string|int>  $asked
 * @return list<array<string, mixed>>
 */
function audited(array $asked = [], string $by = 'manager'): array
{
    return test()->as($by)->getJson('/api/oversight/history?'.http_build_query($asked))->assertOk()->json('entries');
}

/** An export in a file. */
function exported(string $form = 'jsonl', string $by = 'manager', array $days = []): string
{
    $path = sys_get_temp_dir().'/brenvic-history-'.getmypid().".{$form}";
    file_put_contents($path, test()->as($by)->get("/api/oversight/history/export.{$form}?".http_build_query($days))->assertOk()->streamedContent());

    return $path;
}

/** @return array{int, string} how the script for outsiders ends, and what it says */
function outsideVerifies(string $path, string $more = ''): array
{
    exec('python3 '.escapeshellarg(base_path('docs/verify-history.py')).' '.escapeshellarg($path)." {$more} 2>&1", $lines, $code);

    return [$code, implode("\n", $lines)];
}

it('finds who did what to which document when, the latest first, and records that somebody looked', function () {
    $ref = stoppageOf('2001');
    $other = stoppageOf('2002');
    $this->as('reader')->getJson("/api/documents/{$ref}")->assertOk();
    $all = audited();
    expect($all[0])->toMatchArray(['act' => 'history_searched', 'by' => 'Corin Bexley'])->and(array_column($all, 'id'))->toBe(array_reverse(range(1, count($all))));
    $seen = audited(['document' => $ref, 'act' => 'viewed']);
    expect($seen)->toHaveCount(1)->and($seen[0])->toMatchArray(['by' => 'Isla Thorne', 'says' => 'viewed', 'library' => 'Waterways'])
        ->and($seen[0]['document'])->toMatchArray(['ref' => $ref])
        ->and($seen[0]['detail'])->toBe('');
    expect(array_column(audited(['person' => 'clerk', 'act' => 'filed']), 'document'))->toHaveCount(2)
        ->and(audited(['person' => 'clerk', 'from' => now()->addDay()->toDateString()]))->toBe([])
        ->and(audited(['person' => 'clerk', 'until' => now()->subDay()->toDateString()]))->toBe([])
        ->and(audited(['person' => 'clerk', 'from' => now()->toDateString(), 'until' => now()->toDateString()]))->not->toBe([])
        ->and(audited(['library' => 'harbour']))->toBe([])
        ->and(array_column(array_column(audited(['library' => 'waterways', 'act' => 'filed']), 'document'), 'ref'))->toBe([$other, $ref]);
    expect(audited(['act' => 'history_searched'])[1]['detail'])->toContain('library waterways');
    $this->as('librarian')->getJson('/api/oversight/history')->assertForbidden();
});

it('tells what was changed, and covers what is sensitive', function () {
    $ref = $this->filed('Permit', 'p.txt', 'mooring_permit', ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Marigold Ash'], 'holder' => ['Osric Vane']], 'harbour');
    $plan = ['field' => 'vessel', 'how' => 'set', 'values' => ['Teal'], 'documents' => [$ref], 'changes' => 1];
    $this->as('clerk')->postJson('/api/value-acts', $plan)->assertSuccessful();
    $this->postJson('/api/value-acts', [...$plan, 'field' => 'holder', 'values' => ['Orla Pike']])->assertSuccessful();
    $details = array_column(audited(['document' => $ref, 'act' => 'changed']), 'detail');
    expect($details[1])->toBe('Vessel: Marigold Ash → Teal')->and(implode(' ', $details))->not->toContain('Pike')->not->toContain('Vane');
});

it('goes on page by page and tells of nothing that a person may not see', function () {
    $ref = stoppageOf('2001');
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $ids = DB::table('documents')->whereIn('ref', [$ref, $secret])->pluck('id', 'ref');
    for ($i = 0; $i < 90; $i++) {
        History::record(Act::Commented, null, Document::query()->findOrFail($ids[$i % 3 === 0 ? $secret : $ref]));
    }
    DB::table('roles')->where('code', 'reader')->update(['rights' => json_encode(['read', 'oversee'])]);
    app()->forgetScopedInstances();
    $page = fn (string $more = '') => $this->as('reader')->getJson("/api/oversight/history?act=commented{$more}")->assertOk()->json();
    $first = $page();
    expect($first['entries'])->toHaveCount(60)->and($first['next'])->toBeNull();
    expect(array_unique(array_column(array_column($first['entries'], 'document'), 'ref')))->toBe([$ref]);
    for ($i = 0; $i < 400; $i++) {
        History::record(Act::Commented, null, Document::query()->findOrFail($ids[$ref]));
    }
    $met = [];
    for ($next = ''; ; $next = "&before={$got['next']}") {
        $got = $page($next);
        array_push($met, ...array_column($got['entries'], 'id'));
        if ($got['next'] === null) {
            break;
        }
    }
    expect($met)->toHaveCount(460)->and(count(array_unique($met)))->toBe(460);
    // What was removed is told of where its library is entered.
    $this->as('librarian')->postJson('/api/removed', ['documents' => [$ref], 'reason' => 'Filed twice'])->assertOk();
    expect(audited(['document' => $ref, 'act' => 'removed'], 'reader')[0]['detail'])->toBe('reason: Filed twice')
        ->and(audited(['document' => $secret], 'reader'))->toBe([]);
});

it('tells nothing of what is gone to whom an access rule kept it from', function () {
    $critical = $this->filed('The otter ran aground.', 'c.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['critical']], 'harbour');
    $minor = $this->filed('The otter came alongside.', 'm.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor']], 'harbour');
    $rule = ['code' => 'critical', 'name' => 'Critical', 'criterion' => 'severity == critical', 'acts' => ['see'], 'groups' => ['Records office', 'Board office']];
    $this->as('librarian')->postJson('/api/design/access', $rule)->assertCreated();
    $this->publish()->assertCreated();
    DB::table('roles')->where('code', 'reader')->update(['rights' => json_encode(['read', 'remove', 'oversee'])]);
    app()->forgetScopedInstances();
    $told = fn (string $who): array => array_values(array_unique(array_column(array_column(audited([], $who), 'document'), 'ref')));
    $bin = fn (string $who): array => array_column($this->as($who)->getJson('/api/removed')->assertOk()->json('documents'), 'ref');
    expect($told('reader'))->toBe([$minor]);
    $this->as('librarian')->postJson('/api/removed', ['documents' => [$critical, $minor], 'reason' => 'Filed twice'])->assertOk();
    app()->forgetScopedInstances();
    expect($told('reader'))->toBe([$minor])->and($bin('reader'))->toBe([$minor])
        ->and($told('manager'))->toEqualCanonicalizing([$critical, $minor])
        ->and($bin('manager'))->toEqualCanonicalizing([$critical, $minor]);
    $this->as('manager')->postJson('/api/removed/destroy', ['documents' => [$critical, $minor], 'reason' => 'Filed twice'])->assertOk();
    app()->forgetScopedInstances();
    expect($told('reader'))->toBe([$minor])->and($told('manager'))->toEqualCanonicalizing([$critical, $minor]);
});

it('is exported with its chain, which somebody outside verifies', function () {
    $ref = stoppageOf('2001');
    $this->as('reader')->getJson("/api/documents/{$ref}")->assertOk();
    $this->as('librarian')->postJson('/api/removed', ['documents' => [$ref], 'reason' => "Filed twice; “é”, \n and a comma, \"quoted\""])->assertOk();
    foreach (['jsonl', 'csv'] as $form) {
        [$code, $says] = outsideVerifies(exported($form));
        expect($says)->toContain('entries hold')->and($code)->toBe(0);
    }
    $path = exported();
    $lines = file($path) ?: [];
    $tampered = static function (array $lines) use ($path): array {
        file_put_contents($path, implode('', $lines));

        return outsideVerifies($path);
    };
    $filed = (int) key(array_filter($lines, static fn (string $line): bool => str_contains($line, '"act":"removed"')));
    expect($tampered(array_replace($lines, [$filed => str_replace('Filed twice', 'Filed once', $lines[$filed])]))[1])->toContain('says something else than it said');
    expect($tampered(array_replace($lines, [$filed => str_replace('"user":1,', '"user":2,', $lines[$filed])]))[1])->toContain('does not hold');
    expect($tampered(array_values(array_diff_key($lines, [$filed => true])))[0])->toBe(1);
    expect($tampered(array_slice($lines, 2))[0])->toBe(0);
    file_put_contents($path, 'nothing of the kind');
    expect(outsideVerifies($path)[0])->toBe(2);
    unlink($path);
    expect(audited(['act' => 'history_exported']))->toHaveCount(3);
});

it('withholds in an export what a person may not see, and the chain still holds', function () {
    stoppageOf('2001');
    $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    DB::table('roles')->where('code', 'reader')->update(['rights' => json_encode(['read', 'oversee'])]);
    app()->forgetScopedInstances();
    $path = exported('jsonl', 'reader');
    [$code, $says] = outsideVerifies($path);
    expect($code)->toBe(0)->and($says)->not->toContain(' 0 were withheld')->and((string) file_get_contents($path))->not->toContain('byelaw');
    unlink($path);
});

it('exports no value that is sensitive or of a field that is not for the person, and the chain still holds', function () {
    $ref = $this->filed('Permit', 'p.txt', 'mooring_permit', ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Marigold Ash'], 'holder' => ['Osric Vane']], 'harbour');
    $plan = ['how' => 'set', 'documents' => [$ref], 'changes' => 1];
    $this->as('clerk')->postJson('/api/value-acts', [...$plan, 'field' => 'vessel', 'values' => ['Teal']])->assertSuccessful();
    $this->postJson('/api/value-acts', [...$plan, 'field' => 'holder', 'values' => ['Orla Pike']])->assertSuccessful();
    foreach (['jsonl', 'csv'] as $form) {
        $path = exported($form);
        expect((string) file_get_contents($path))->toContain('Marigold Ash')->not->toContain('Pike')->not->toContain('Vane');
        expect(outsideVerifies($path)[0])->toBe(0);
        unlink($path);
    }
    // An entry of before there were sums tells all of itself or nothing.
    DB::table('history')->where('detail', 'like', '%Pike%')->update(['detail_sum' => null]);
    $path = exported();
    expect((string) file_get_contents($path))->not->toContain('Pike')->toContain('"withheld":true');
    unlink($path);
});

it('gives its head out once a day, so that a rewritten past is noticed', function () {
    stoppageOf('2001');
    $this->as('manager')->putJson('/api/oversight/history/rules', ['readers' => ['record' => true, 'months' => 0], 'head_mail' => ['no address']])->assertStatus(422);
    $this->putJson('/api/oversight/history/rules', ['readers' => ['record' => true, 'months' => 0], 'head_mail' => ['auditor@county.example']])->assertOk();
    expect(Heads::give())->toBeTrue()->and(Heads::give())->toBeFalse();
    $head = Heads::folder().'/'.now()->utc()->toDateString().'.txt';
    expect(DB::table('outbox')->where('to', 'auditor@county.example')->value('text'))->toBe(file_get_contents($head));
    stoppageOf('2002');
    $path = exported();
    expect(outsideVerifies($path, '--head '.escapeshellarg($head))[0])->toBe(0);
    // Everything is made anew from the beginning: the chain holds in itself, and not against the head.
    $rows = DB::table('history')->orderBy('id')->get();
    DB::table('history')->delete();
    Carbon::setTestNow(now()->subDay());
    foreach ($rows as $row) {
        History::record(Act::from((string) $row->act), User::query()->find($row->user_id), Document::query()->find($row->document_id));
    }
    Carbon::setTestNow();
    [$code, $says] = outsideVerifies(exported(), '--head '.escapeshellarg($head));
    expect($code)->toBe(1);
    unlink($path);
});

it('keeps of readers what the office says, as long as it says', function () {
    $ref = stoppageOf('2001');
    $open = fn (string $by) => $this->as($by)->getJson("/api/documents/{$ref}")->assertOk();
    $open('reader');
    Carbon::setTestNow(now()->addMonths(7));
    $open('clerk');
    (new Readers(true, 6))->keep(User::query()->where('sign_in', 'manager')->firstOrFail());
    expect(Readers::forget())->toBe(1);
    expect(array_column(audited(['document' => $ref, 'act' => 'viewed']), 'by'))->toBe(['Fenwick Dale', null])
        ->and((string) json_encode(DB::table('history')->where('act', 'viewed')->whereNull('user_id')->first()))->not->toContain('salt');
    $this->artisan('brenvic:history:verify')->assertSuccessful();
    [$code] = outsideVerifies($path = exported());
    expect($code)->toBe(0);
    unlink($path);
    // The document tells of its own history still.
    expect(array_column($this->as('manager')->getJson("/api/documents/{$ref}/history")->assertOk()->json('history'), 'by', 'act'))->toHaveKey('viewed');
    (new Readers(false, 6))->keep(User::query()->where('sign_in', 'manager')->firstOrFail());
    Carbon::setTestNow(now()->addMonths(1));
    $open('librarian');
    expect(audited(['document' => $ref, 'act' => 'viewed']))->toHaveCount(2);
    // Somebody else is made the reader: that is noticed.
    DB::table('history')->where('act', 'viewed')->whereNotNull('user_id')->update(['user_id' => 1]);
    $this->artisan('brenvic:history:verify')->assertFailed();
    Carbon::setTestNow();
});
