<?php

declare(strict_types=1);

use App\Models\Document;
use Illuminate\Support\Facades\DB;

function survey(Tests\TestCase $test, string $name, array $values = []): string
{
    return $test->filed('Silt', $name, 'dredging_survey', ['document_date' => ['2024'], 'waterway' => ['tarn-sea'], ...$values]);
}

it('shows what would change, does it as one act, finds it, and takes it back', function () {
    $refs = array_map(fn (int $n): string => survey($this, "s{$n}.txt", $n === 0 ? ['condition' => ['a']] : []), range(0, 2));
    $ask = ['search' => ['words' => 'type == dredging_survey'], 'field' => 'condition', 'how' => 'set', 'values' => ['a']];
    $plan = $this->as('librarian')->postJson('/api/value-acts/plan', $ask)->assertOk()->json();
    expect($plan['changes'])
        ->toBe(2)
        ->and($plan['same'])
        ->toBe(1)
        ->and($plan['refused'])
        ->toBe([])
        ->and($plan['sample'][0])
        ->toMatchArray(['ref' => $refs[1], 'before' => ''])
        ->and($plan['sample'][0]['after'])
        ->not->toBe('');
    // What was looked at is what is done, or nothing.
    $this->postJson('/api/value-acts', [...$ask, 'changes' => 3])->assertUnprocessable();
    $act = $this->postJson('/api/value-acts', [...$ask, 'changes' => 2])
        ->assertStatus(202)
        ->json();
    expect($act['state'])
        ->toBe('done')
        ->and($act['done'])
        ->toBe(2)
        ->and($this->search(['words' => 'condition == a'], 'librarian')->json('total'))
        ->toBe(3)
        ->and(
            $this->as('librarian')
                ->getJson("/api/documents/{$refs[1]}/history")
                ->json('history.0.act'),
        )
        ->toBe('changed');
    // Whoever changed one since keeps that.
    $lock = Document::query()->where('ref', $refs[2])->value('lock_version');
    $this->putJson("/api/documents/{$refs[2]}", [
        'lock_version' => $lock,
        'type' => 'dredging_survey',
        'values' => ['document_date' => ['2024'], 'waterway' => ['tarn-sea'], 'condition' => ['b']],
    ])->assertOk();
    $undone = $this->postJson("/api/value-acts/{$act['id']}/undo")
        ->assertStatus(202)
        ->json();
    expect($undone)
        ->toMatchArray(['state' => 'undone', 'done' => 1, 'skipped' => 1])
        ->and($this->search(['words' => 'condition == a'], 'librarian')->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'condition == b'], 'librarian')->json('total'))
        ->toBe(1);
    $this->as('librarian')
        ->postJson("/api/value-acts/{$act['id']}/undo")
        ->assertUnprocessable();
    $this->as('clerk')
        ->getJson("/api/value-acts/{$act['id']}")
        ->assertNotFound();
    // The clerk has filed them, and changed none.
    expect(array_unique(array_column($this->getJson('/api/acts')->json('acts'), 'says')))
        ->toBe(['Filed'])
        ->and($this->as('librarian')->getJson('/api/acts')->json('acts.0'))
        ->toMatchArray([
            'of' => 'values',
            'says' => 'Condition grade set to A: as new',
            'state' => 'undone',
            'undoable' => false,
            'left' => 1,
        ])
        ->and($this->getJson('/api/acts')->json('acts.0.left_alone.0'))
        ->toMatchArray(['ref' => $refs[2], 'why' => 'It was changed in the meantime.']);
});

it('says who is refused and why, and leaves them alone', function () {
    $held = survey($this, 'held.txt');
    $free = survey($this, 'free.txt');
    $notice = $this->filed('Closed', 'n.txt', 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'All'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$held]]);
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'A claim'])->assertOk();
    $ask = ['documents' => [$held, $free, $notice, 'D-99999-X'], 'field' => 'silt_depth', 'how' => 'set', 'values' => ['1.2']];
    $plan = $this->postJson('/api/value-acts/plan', $ask)->json();
    expect($plan['changes'])
        ->toBe(1)
        ->and(array_column($plan['refused'], 'count', 'why'))
        ->toBe(['On hold: A claim' => 1, 'Stoppage notice has no Silt depth.' => 1]);
    // A wrong value is said at its field, before anything is looked at.
    $this->postJson('/api/value-acts/plan', [...$ask, 'values' => ['deep']])
        ->assertUnprocessable()
        ->assertJsonStructure(['error' => ['fields' => ['silt_depth']]]);
    $this->postJson('/api/value-acts/plan', [...$ask, 'how' => 'add'])->assertUnprocessable();
    $this->postJson('/api/value-acts', [...$ask, 'changes' => 1])->assertStatus(202);
    expect(DB::table('document_values')->where('value', '1.2')->count())->toBe(1);
    // A required field is not emptied.
    expect(
        $this->postJson('/api/value-acts/plan', ['documents' => [$free], 'field' => 'document_date', 'how' => 'clear'])->json(
            'refused.0.why',
        ),
    )->toContain('is required');
});

it('changes nothing that a person may not see or change', function () {
    $secret = $this->filed(
        'The otter clause',
        'o.txt',
        'byelaw',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    $plan = $this->as('clerk')
        ->postJson('/api/value-acts/plan', ['documents' => [$secret], 'field' => 'document_date', 'how' => 'set', 'values' => ['2020']])
        ->json();
    expect($plan)->toMatchArray(['changes' => 0, 'same' => 0, 'refused' => []]);
});

it('goes on after a stop where it was', function () {
    $refs = array_map(fn (int $n): string => survey($this, "k{$n}.txt"), range(0, 3));
    Illuminate\Support\Facades\Queue::fake();
    $act = $this->as('librarian')
        ->postJson('/api/value-acts', ['documents' => $refs, 'field' => 'condition', 'how' => 'set', 'values' => ['c'], 'changes' => 4])
        ->json();
    $many = app(App\Intake\ManyValues::class);
    $model = App\Models\ValueAct::query()->find($act['id']);
    expect($many->step($model))->toBeTrue();
    // The step that was done is not done again.
    expect($model->done)->toBe(4)->and($many->step($model))->toBeFalse()->and($model->state)->toBe('done')->and($model->done)->toBe(4);
});
