<?php

declare(strict_types=1);

use App\Find\SavedSearches;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Procedures\Beginning;
use App\Retrieve\Deliver;
use App\Retrieve\Posting;
use Demo\Procedures;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** @return list<string> what a person is told, the latest first */
function toldTo(string $by): array
{
    return array_column(test()->as($by)->getJson('/api/notices')->assertOk()->json('notices'), 'says');
}

function somebody(string $signIn): User
{
    return User::query()->where('sign_in', $signIn)->firstOrFail();
}

it('tells here at once, and by mail as each has chosen', function (string $how, int $atOnce, int $daily) {
    $reader = somebody('reader');
    $reader->update(['mail' => 'isla@tarnwick.example', 'preferences' => ['notices_mailed' => $how]]);
    Notices::tell([$reader], NoticeKind::Told, ['text' => 'The lock is closed.'], '/desk');
    Notices::tell([$reader], NoticeKind::Told, ['text' => 'The lock is open.'], '/desk');
    expect(toldTo('reader'))->toBe(['The lock is open.', 'The lock is closed.'])
        ->and($this->getJson('/api/counts')->json('notices'))->toBe(2)
        ->and(DB::table('outbox')->count())->toBe($atOnce);
    Notices::mailDaily();
    expect(DB::table('outbox')->count())->toBe($atOnce + $daily);
    // What was mailed is not mailed again.
    expect(Notices::mailDaily())->toBe(0);
    if ($daily > 0) {
        expect((string) DB::table('outbox')->value('text'))->toContain('The lock is closed.')->toContain('The lock is open.')->toContain('/desk');
    }
    $last = $this->as('reader')->getJson('/api/notices')->json('notices.1.id');
    $this->postJson('/api/notices/seen', ['up_to' => $last])->assertNoContent();
    expect($this->getJson('/api/counts')->json('notices'))->toBe(1);
})->with([['at_once', 2, 0], ['daily', 0, 1], ['none', 0, 0]]);

it('says it in the words of the office', function () {
    Procedures::install();
    $this->as('reader')->putJson('/api/notices/texts', ['texts' => []])->assertForbidden();
    $this->as('admin')
        ->putJson('/api/notices/texts', ['texts' => ['task' => 'Please: {question} ({document}, {procedure})', 'nonsense' => 'x']])
        ->assertOk();
    $this->filed('Tender', 't.txt', 'tender', ['contractor' => ['Holm Brothers'], 'amount' => ['100']], 'works');
    expect(toldTo('works'))->toBe(['Please: Is the tender complete, and is the price explained? (Tender by Holm Brothers, Tender)']);
    $this->as('admin')->putJson('/api/notices/texts', ['texts' => ['task' => ' ']])->assertOk();
    expect(Notices::texts())->toBe([]);
});

it('tells of new documents in a watched search, each once until somebody looks', function () {
    $watch = $this->as('reader')->postJson('/api/searches', ['name' => 'Notices', 'search' => ['words' => 'sluice'], 'groups' => []])->assertSuccessful();
    $id = $watch->json('searches.0.id') ?? $watch->json('id');
    $this->postJson("/api/searches/{$id}/look")->assertOk();
    $tell = function (): void {
        app()->forgetScopedInstances();
        app(SavedSearches::class)->tellNew();
    };
    $file = fn (string $name): string => $this->filed("The sluice {$name}.", "{$name}.txt", 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $tell();
    expect(toldTo('reader'))->toBe([]);
    $file('one');
    $tell();
    $tell();
    expect(toldTo('reader'))->toBe(['A new document in “Notices”.']);
    $file('two');
    $file('three');
    $tell();
    expect(toldTo('reader')[0])->toBe('2 new documents in “Notices”.');
    // What they may not see is not new to them.
    $this->filed('The sluice of the board.', 'b.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $tell();
    expect(toldTo('reader'))->toHaveCount(2);
});

it('tells who wants a delivery that it failed, and who lent a copy that it is back', function () {
    $clerk = somebody('clerk');
    $list = $this->as('clerk')->postJson('/api/lists', ['name' => 'L'])->json('id');
    $delivery = Delivery::query()->create(['pull_list_id' => $list, 'user_id' => $clerk->id, 'name' => 'L', 'format' => 'zip', 'settings' => []]);
    (new Deliver($delivery->id))->failed(new RuntimeException('x'));
    expect(toldTo('clerk')[0])->toStartWith('The delivery “L” failed. It could not be made: ');
    $ref = $this->filed('A copy.', 'c.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $loan = $this->as('clerk')->postJson("/api/documents/{$ref}/loans", ['borrower' => 'Holm Masonry'])->assertOk()->json('loans.0.id');
    $this->as('librarian')->postJson("/api/documents/{$ref}/loans/{$loan}/return")->assertOk();
    expect(toldTo('clerk')[0])->toStartWith('Holm Masonry returned “Stoppage notice')->toEndWith('unchanged.');
});

it('sends what is in the outbox to a mail server, once, and keeps what it does not take', function () {
    // Python’s own server, which writes down what it gets.
    $port = 20_000 + random_int(0, 9_000);
    $folder = sys_get_temp_dir().'/brenvic-smtp-'.getmypid();
    @mkdir($folder);
    $server = proc_open(
        ['python3', '-W', 'ignore', '-u', '-m', 'smtpd', '-n', '-c', 'DebuggingServer', "127.0.0.1:{$port}"],
        [1 => ['file', "{$folder}/got", 'w'], 2 => ['file', "{$folder}/said", 'w']],
        $pipes,
    );
    for ($i = 0; $i < 100 && @fsockopen('127.0.0.1', $port) === false; $i++) {
        usleep(50_000);
    }
    try {
        $put = static fn (string $to): int => DB::table('outbox')->insertGetId([
            'user_id' => somebody('clerk')->id,
            'to' => $to,
            'subject' => 'Überfällig: Schleuse 4',
            'text' => "The lock is closed.\n\n.\nA line with a dot.",
            'at' => now(),
        ]);
        $put('clerk@tarnwick.example');
        expect(app(Posting::class)->send())->toBe(0);
        config(['brenvic.smtp' => "smtp://127.0.0.1:{$port}?auto_tls=false"]);
        $bad = $put('nobody at all');
        expect(app(Posting::class)->send())->toBe(1)->and(app(Posting::class)->send())->toBe(0);
        $got = (string) file_get_contents("{$folder}/got");
        expect($got)->toContain('The lock is closed.')
            ->toContain('A line with a dot.')
            ->toContain('clerk@tarnwick.example')
            ->toContain('=?utf-8?Q?')
            ->and(substr_count($got, 'MESSAGE FOLLOWS'))->toBe(1);
        // An address that is none is not tried again, and somebody is told.
        expect((string) DB::table('outbox')->where('id', $bad)->value('says'))->not->toBe('')
            ->and(App\Alarms\Alarms::count())->toBe(1);
        $shown = $this->as('clerk')->getJson('/api/outbox')->assertJsonPath('connected', true);
        expect(array_column($shown->json('mails'), 'sent'))->toBe([false, true]);
        // A server that is away is tried again later.
        proc_terminate($server, 9);
        proc_close($server);
        $put('clerk@tarnwick.example');
        expect(app(Posting::class)->send())->toBe(0);
        $row = DB::table('outbox')->orderByDesc('id')->first();
        expect((int) $row->tries)->toBe(1)->and(Carbon::parse($row->again_at)->isFuture())->toBeTrue();
    } finally {
        is_resource($server) && proc_terminate($server, 9);
        Illuminate\Support\Facades\File::deleteDirectory($folder);
    }
});

it('begins what comes true as time goes by, though no document changes', function () {
    $ref = $this->filed('Permit', 'p.txt', 'mooring_permit', ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Tern'], 'valid_until' => [now()->toDateString()]], 'harbour');
    $this->as('librarian')->postJson('/api/design/procedures', [
        'code' => 'renewal',
        'name' => 'Renewal',
        'types' => ['mooring_permit'],
        'begins' => 'when',
        'criterion' => 'valid_until = "this month"',
        'keepers' => 'Records office',
        'steps' => [
            [
                'code' => 'ask',
                'name' => 'Asked',
                'kind' => 'ask',
                'who' => [['kind' => 'group', 'value' => 'Records office']],
                'question' => 'Is it renewed?',
                'decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]]],
            ],
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ],
    ])->assertCreated();
    $this->publish()->assertCreated();
    $look = static function (): int {
        app()->forgetScopedInstances();
        app(Beginning::class)->daily();

        return ProcedureCase::query()->count();
    };
    // It was true already when the procedure was published.
    expect($look())->toBe(0);
    // As if it had not been, for the month has only just begun; another was, and is no more.
    $document = (int) Document::query()->where('ref', $ref)->value('id');
    $past = $this->filed('Permit', 'q.txt', 'mooring_permit', ['permit_number' => ['MP-2023-0002'], 'vessel' => ['Ash'], 'valid_until' => ['2020-01-01']], 'harbour');
    DB::table('procedure_truths')->where('document_id', $document)->delete();
    DB::table('procedure_truths')->insert(['procedure' => 'renewal', 'document_id' => Document::query()->where('ref', $past)->value('id')]);
    expect($look())->toBe(1)->and($look())->toBe(1);
    expect(ProcedureCase::query()->sole()->document_id)->toBe($document)
        ->and(DB::table('procedure_truths')->pluck('document_id')->all())->toBe([$document]);
});
