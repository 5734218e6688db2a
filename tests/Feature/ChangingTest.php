<?php

declare(strict_types=1);

use App\Models\User;
use App\People\Groups;
use Illuminate\Support\Facades\DB;

/** Every state that a document can be in which keeps somebody from changing it: a rule, a hold, a check-out, a template. */
function states(): array
{
    $states = [];
    foreach ([false, true] as $rule) {
        foreach ([false, true] as $hold) {
            foreach (['', 'clerk', 'librarian'] as $out) {
                foreach ($out === '' ? [false, true] : [false] as $template) {
                    $states[] = ['rule' => $rule, 'hold' => $hold, 'out' => $out, 'template' => $template];
                }
            }
        }
    }

    return $states;
}

beforeEach(function () {
    $rule = [
        'code' => 'critical',
        'name' => 'Critical incidents',
        'criterion' => 'severity == critical',
        'acts' => ['change'],
        'groups' => ['Harbour office'],
    ];
    $this->as('librarian')->postJson('/api/design/access', $rule)->assertCreated();
    $this->publish()->assertCreated();
    $guest = User::query()->create(['name' => 'A Guest', 'sign_in' => 'guest', 'role' => 'clerk', 'password' => 'x']);
    Groups::put($guest, ['Everyone']);
    $this->cases = [];
    foreach (states() as $i => $state) {
        $values = ['document_date' => ['2024'], 'waterway' => ['tarn-sea'], 'severity' => ['minor']];
        $ref = $this->filed('The boat struck the quay.', "{$i}.txt", 'incident_report', $values, 'harbour');
        if ($state['out'] !== '') {
            $this->as($state['out'])
                ->postJson("/api/documents/{$ref}/check-out", ['note' => 'Work'])
                ->assertOk();
        }
        if ($state['template']) {
            $this->as('clerk')
                ->putJson("/api/documents/{$ref}/template")
                ->assertOk();
        }
        if ($state['rule']) {
            DB::table('document_values')
                ->where('value', 'minor')
                ->where('document_id', App\Models\Document::query()->where('ref', $ref)->value('id'))
                ->update(['value' => 'critical']);
            app(App\Index\Indexer::class)->update([App\Models\Document::query()->where('ref', $ref)->value('id')]);
        }
        if ($state['hold']) {
            $list = $this->as('manager')
                ->postJson('/api/lists', ['name' => "Held {$i}"])
                ->json('id');
            $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref]])->assertOk();
            $this->postJson("/api/lists/{$list}/hold", ['reason' => 'A claim'])->assertOk();
        }
        $this->cases[$ref] = $state;
    }
    app()->forgetScopedInstances();
    /** Does something, says whether it was let, and takes it back. */
    $this->tried = function (string $who, string $method, string $path, array $body, Closure $isLet): bool {
        DB::beginTransaction();
        try {
            return $isLet($this->as($who)->json($method, $path, $body));
        } finally {
            DB::rollBack();
            app()->forgetScopedInstances();
        }
    };
});

it('lets each person change what they may, alike by every way there is', function (string $who, bool $hasRight) {
    $values = fn (string $severity): array => ['document_date' => ['2025'], 'waterway' => ['tarn-sea'], 'severity' => [$severity]];
    $ok = static fn ($answer): bool => $answer->isSuccessful();
    foreach ($this->cases as $ref => $state) {
        $lock = (int) DB::table('documents')->where('ref', $ref)->value('lock_version');
        $mayChange = $hasRight && ! $state['rule'] && ! $state['hold'] && in_array($state['out'], ['', $who], true);
        $severity = $state['rule'] ? 'critical' : 'minor';
        $sheet = ['type' => 'incident_report', 'values' => $values($severity), 'lock_version' => $lock];
        $rows = ['rows' => [['ref' => $ref, 'lock_version' => $lock, 'values' => ['place' => 'The quay']]]];
        $move = ['documents' => [$ref], 'library' => 'waterways', 'how' => 'move', 'type' => 'weed_silt_report'];
        $act = ['field' => 'place', 'how' => 'set', 'values' => ['The quay'], 'documents' => [$ref]];
        $let = [
            'said' => $this->as($who)
                ->getJson("/api/documents/{$ref}")
                ->assertOk()
                ->json('may_change'),
            'sheet' => ($this->tried)($who, 'PUT', "/api/documents/{$ref}", $sheet, $ok),
            'table' => ($this->tried)(
                $who,
                'POST',
                '/api/document-acts/sheets/plan',
                $rows,
                static fn ($a): bool => $a->json('changes') !== null && count($a->json('changes')) === 1,
            ),
            'many' => ($this->tried)($who, 'POST', '/api/value-acts/plan', $act, static fn ($a): bool => $a->json('changes') === 1),
            'place' => ($this->tried)($who, 'POST', '/api/document-acts/transfer/plan', $move, static fn ($a): bool => $a->json('go') === 1),
        ];
        $file = ($this->tried)($who, 'POST', "/api/documents/{$ref}/check-out", [], $ok);
        $said = json_encode($state);
        expect($let)
            ->toBe(array_fill_keys(array_keys($let), $mayChange), "{$who}: {$said}")
            ->and($file)
            ->toBe($mayChange && ! $state['template'], "{$who} a version: {$said}");
    }
})->with([['clerk', true], ['librarian', true], ['guest', false], ['reader', false], ['manager', false]]);

it('lets those who answer for it take away what is neither held nor checked out', function (string $who, bool $mayRemove) {
    foreach ($this->cases as $ref => $state) {
        $isLet = ($this->tried)(
            $who,
            'POST',
            '/api/removed',
            ['documents' => [$ref], 'reason' => 'A double'],
            static fn ($a): bool => $a->isSuccessful(),
        );
        expect($isLet)->toBe($mayRemove && ! $state['hold'] && $state['out'] === '', "{$who}: ".json_encode($state));
    }
})->with([['librarian', true], ['manager', true], ['clerk', false]]);

it('says why, the person’s own reason first', function () {
    $why = [];
    foreach ($this->cases as $ref => $state) {
        $why[(string) json_encode($state)] = $this->as('clerk')
            ->getJson("/api/documents/{$ref}")
            ->json('why_not');
    }
    $of = static fn (bool $rule, bool $hold, string $out): string => (string) json_encode([
        'rule' => $rule,
        'hold' => $hold,
        'out' => $out,
        'template' => false,
    ]);
    expect($why[$of(true, true, 'librarian')])
        ->toBe('An access rule does not let you change it.')
        ->and($why[$of(false, true, 'librarian')])
        ->toBe('On hold: A claim')
        ->and($why[$of(false, false, 'librarian')])
        ->toStartWith('Ottoline Marsh has checked the document out since')
        ->and($why[$of(false, false, 'clerk')])
        ->toBeNull();
});
