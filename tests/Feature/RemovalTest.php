<?php

declare(strict_types=1);

use App\Files\FileStore;
use App\Models\Document;
use Illuminate\Support\Facades\DB;

function removable(Tests\TestCase $test, string $name, string $text = 'The heron clause'): string
{
    return $test->filed($text, $name, 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
}

it('removes with a reason what is then found by nobody, and brings it back', function () {
    $ref = removable($this, 'a.txt');
    $this->as('librarian')
        ->postJson('/api/removed', ['documents' => [$ref]])
        ->assertUnprocessable();
    $this->postJson('/api/removed', ['documents' => [$ref], 'reason' => 'Filed twice'])->assertJsonPath('removed', [$ref]);
    expect($this->search(['words' => 'heron'], 'librarian')->json('total'))->toBe(0);
    $this->as('librarian')
        ->getJson("/api/documents/{$ref}")
        ->assertNotFound();
    expect($this->getJson('/api/removed')->json('documents.0'))->toMatchArray([
        'ref' => $ref,
        'reason' => 'Filed twice',
        'by' => 'Ottoline Marsh',
    ]);
    $this->postJson('/api/removed/restore', ['documents' => [$ref]])->assertJsonPath('restored', 1);
    expect($this->search(['words' => 'heron'], 'librarian')->json('total'))
        ->toBe(1)
        ->and(
            array_column(
                $this->as('librarian')
                    ->getJson("/api/documents/{$ref}/history")
                    ->json('history'),
                'act',
            ),
        )
        ->toContain('removed', 'restored');
    $this->artisan('brenvic:check')->assertSuccessful();
});

it('removes nothing that is held, all or none', function () {
    [$free, $held] = [removable($this, 'a.txt', 'One'), removable($this, 'b.txt', 'Two')];
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'Claim'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$held]]);
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'A claim'])->assertOk();
    expect(
        $this->postJson('/api/removed', ['documents' => [$free, $held], 'reason' => 'x'])
            ->assertUnprocessable()
            ->json('error.message'),
    )->toContain('On hold: A claim');
    $this->getJson("/api/documents/{$free}")->assertOk();
});

it('destroys what was removed: its rows and its file, but not one that another document has', function () {
    [$only, $one, $other] = [removable($this, 'a.txt', 'Alone'), removable($this, 'b.txt', 'Shared'), removable($this, 'c.txt', 'Shared')];
    $sha256 = Document::query()->where('ref', $only)->value('sha256');
    $shared = Document::query()->where('ref', $one)->value('sha256');
    $this->as('manager')
        ->postJson('/api/removed/destroy', ['documents' => [$other], 'reason' => 'Not removed first'])
        ->assertJsonPath('destroyed', 0);
    $this->postJson('/api/removed', ['documents' => [$only, $one], 'reason' => 'Due'])->assertOk();
    $this->postJson('/api/removed/destroy', ['documents' => [$only, $one], 'reason' => 'Due for disposal'])->assertJsonPath('destroyed', 2);
    $files = app(FileStore::class);
    expect(is_file($files->path($sha256)))
        ->toBeFalse()
        ->and(is_file($files->path($shared)))
        ->toBeTrue()
        ->and(Document::withTrashed()->where('ref', $only)->exists())
        ->toBeFalse()
        ->and(DB::table('pages')->join('documents', 'documents.id', '=', 'document_id')->count())
        ->toBe(DB::table('pages')->count())
        ->and(DB::table('history')->where('act', 'destroyed')->count())
        ->toBe(2);
    $this->artisan('brenvic:history:verify')->assertSuccessful();
    $this->artisan('brenvic:check')->assertSuccessful();
});

it('removes nothing that a person may not see', function () {
    $secret = $this->filed(
        'The otter clause',
        'o.txt',
        'byelaw',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    DB::table('group_user')
        ->where('user_id', App\Models\User::query()->where('sign_in', 'manager')->value('id'))
        ->delete();
    App\People\Groups::gather();
    $this->as('manager')
        ->postJson('/api/removed', ['documents' => [$secret], 'reason' => 'x'])
        ->assertJsonPath('removed', []);
    expect(Document::query()->where('ref', $secret)->exists())->toBeTrue();
});
