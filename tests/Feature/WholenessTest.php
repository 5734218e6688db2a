<?php

declare(strict_types=1);

use App\Files\FileStore;
use App\History\HistoryEnd;
use App\Intake\Filing;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\User;
use App\Retrieve\DeliveryMaker;
use App\Support\Refused;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

beforeEach(function () {
    $values = ['waterway' => ['tarn-sea'], 'document_date' => ['2024']];
    $this->one = $this->filed('The sluice is shut.', 'one.txt', 'stoppage_notice', $values);
    $this->two = $this->filed('The weir is low.', 'two.txt', 'stoppage_notice', $values);
    $this->place = fn (string $ref): string => app(FileStore::class)->path(Document::query()->where('ref', $ref)->firstOrFail()->sha256);
});

it('gives out no file that is not what was stored, and finds it by verify', function () {
    $this->artisan('brenvic:verify')->expectsOutputToContain('All 2 files are what was stored.')->assertSuccessful();
    file_put_contents(($this->place)($this->one), 'The sluice is open.');
    $this->as('reader')
        ->getJson("/api/documents/{$this->one}/file")
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'damaged'));
    unlink(($this->place)($this->one));
    $this->getJson("/api/documents/{$this->one}/file")
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'not in its place'));
    // Everything else goes on.
    $this->getJson("/api/documents/{$this->one}")->assertOk();
    $this->get("/api/documents/{$this->two}/file")->assertOk();
    expect($this->search(['words' => 'sluice'])->json('total'))->toBe(1);
    $this->artisan('brenvic:verify')->expectsOutputToContain('1 of 2 files are not what was stored.')->assertFailed();
    Artisan::call('brenvic:verify', ['--json' => true]);
    expect(json_decode(Artisan::output(), true))->toMatchArray(['files' => 2]);
});

it('names the documents of damaged files', function () {
    file_put_contents(($this->place)($this->one), 'x');
    Artisan::call('brenvic:verify', ['--json' => true]);
    expect(json_decode(Artisan::output(), true)['faults'])->toBe([
        ['sha256' => hash('sha256', 'The sluice is shut.'), 'fault' => 'damaged', 'documents' => [$this->one]],
    ]);
});

it('leaves a damaged file out of a bag and says so, so that its manifest is true', function () {
    file_put_contents(($this->place)($this->one), 'The sluice is open.');
    $list = $this->as('clerk')
        ->postJson('/api/lists', ['name' => 'Both'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$this->one, $this->two]])->assertOk();
    $id = $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'bag'])
        ->assertCreated()
        ->json('id');
    $delivery = Delivery::query()->findOrFail($id);
    $delivery->state === Delivery::DONE || app(DeliveryMaker::class)->make($delivery);
    $contents = array_column(
        $this->getJson("/api/deliveries/{$id}")
            ->assertJsonPath('state', 'done')
            ->json('contents'),
        null,
        'ref',
    );
    expect($contents[$this->one])
        ->toMatchArray(['file' => ''])
        ->and($contents[$this->one]['remark'])
        ->toContain('damaged')
        ->and($contents[$this->two]['file'])
        ->not->toBe('');
});

it('finds a history whose end was cut off, or whose noted end is gone', function () {
    $this->artisan('brenvic:history:verify')->assertSuccessful();
    $last = DB::table('history')->orderByDesc('id')->first();
    expect(HistoryEnd::read())->toBe([(int) $last->id, $last->hash]);
    DB::table('history')->where('id', $last->id)->delete();
    $this->artisan('brenvic:history:verify')
        ->expectsOutputToContain("entry {$last->id}, which was noted")
        ->assertFailed();
    DB::table('history')->insert((array) $last);
    $this->artisan('brenvic:history:verify')->assertSuccessful();
    unlink(config('brenvic.data').'/history.end');
    $this->artisan('brenvic:history:verify')->expectsOutputToContain('the note of their end')->assertFailed();
});

it('notes the end of what was kept, not of what was taken back', function () {
    $before = HistoryEnd::read();
    try {
        DB::transaction(function (): void {
            App\History\History::record(App\History\Act::Viewed, null);
            throw new RuntimeException('no');
        });
    } catch (RuntimeException) {
    }
    expect(HistoryEnd::read())->toBe($before);
    DB::transaction(function (): void {
        App\History\History::record(App\History\Act::Viewed, null);
        App\History\History::record(App\History\Act::Viewed, null);
    });
    expect(HistoryEnd::read()[0])->toBe((int) DB::table('history')->max('id'));
    $this->artisan('brenvic:history:verify')->assertSuccessful();
});

it('files a document once, however many file it at the same moment', function () {
    $ref = $this->upload('Waiting', 'w.txt')->assertCreated()->json('ref');
    $read = fn (): Document => Document::query()->where('ref', $ref)->firstOrFail();
    [$first, $second] = [$read(), $read()];
    $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    $type = DocumentType::query()->where('code', 'stoppage_notice')->firstOrFail();
    $file = fn (Document $document) => app(Filing::class)->file(
        [$document],
        $type,
        ['waterway' => ['tarn-sea'], 'document_date' => ['2024']],
        $clerk,
    );
    $file($first);
    expect(fn () => $file($second))
        ->toThrow(Refused::class, 'in the meantime')
        ->and(DB::table('history')->where('document_id', $first->id)->where('act', 'filed')->count())
        ->toBe(1);
});
