<?php

declare(strict_types=1);

use App\Alarms\Alarms;
use App\Health\Beats;
use App\Health\Health;
use App\Http\NamedRequest;
use App\Models\User;
use App\Support\PlainLog;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;
use Monolog\Level;
use Monolog\LogRecord;

beforeEach(function () {
    is_dir(config('brenvic.data')) || mkdir(config('brenvic.data'), 0777, true);
});

/** @return array<string, bool> by name, whether it is well */
function wellNow(): array
{
    return array_column(array_map(static fn ($check): array => $check->toArray(), Health::checks()), 'is_well', 'name');
}

it('says to anybody that it lives and serves, and nothing more', function () {
    // Without a session, for it is asked every few seconds.
    $this->get('/health/live')->assertOk()->assertExactJson(['status' => 'live'])->assertCookieMissing('brenvic_session');
    $this->get('/health/ready')->assertOk()->assertExactJson(['status' => 'ready', 'missing' => []]);
    config(['brenvic.data' => '/nowhere/at/all']);
    $this->get('/health/ready')->assertStatus(503)->assertExactJson(['status' => 'not ready', 'missing' => ['disk']]);
});

it('gives figures to who administers and to who has the token, and to nobody else', function () {
    $this->get('/metrics')->assertNotFound();
    foreach (['reader', 'clerk', 'librarian', 'manager'] as $who) {
        $this->as($who)->get('/metrics')->assertNotFound();
        $this->getJson('/api/office/health')->assertForbidden();
        $this->postJson('/api/office/health/1/done')->assertForbidden();
    }
    $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $text = (string) $this->as('admin')->get('/metrics')->assertOk()->getContent();
    expect($text)->toContain("# TYPE brenvic_documents gauge\nbrenvic_documents{state=\"filed\"} 1\n")->toContain("brenvic_alarms 0\n");
    foreach (explode("\n", trim($text)) as $line) {
        expect($line)->toMatch('/^(?:# (?:HELP|TYPE) brenvic_\w+ .+|brenvic_\w+(?:\{\w+="[^"]*"\})? \d+)$/');
    }
    auth()->logout();
    config(['brenvic.metrics_token' => 'of the monitor']);
    $this->get('/metrics', ['Authorization' => 'Bearer of the monitor'])->assertOk();
    $this->get('/metrics', ['Authorization' => 'Bearer other'])->assertNotFound();
});

it('tells what works in the background from what does not', function () {
    expect(wellNow())->toMatchArray(['database' => true, 'disk' => true, 'first worker' => false, 'carer' => false, 'jobs' => true, 'backup' => false]);
    Beats::beat('1');
    expect(wellNow()['first worker'])->toBeTrue();
    touch(config('brenvic.data').'/workers/1.beat', time() - 3_000);
    expect(wellNow()['first worker'])->toBeFalse();
    DB::table('failed_jobs')->insert(['uuid' => 'x', 'connection' => 'd', 'queue' => 'q', 'payload' => '{}', 'exception' => 'e', 'failed_at' => now()]);
    expect(wellNow()['jobs'])->toBeFalse();
    $this->travel(25)->hours();
    expect(wellNow()['jobs'])->toBeTrue();
    config(['brenvic.backup.folder' => '/backups']);
    DB::table('office_settings')->insert(['name' => 'backup', 'value' => json_encode(['made' => now()->utc()->format('Y-m-d\THis\Z')])]);
    expect(wellNow()['backup'])->toBeTrue();
    $this->travel(27)->hours();
    expect(wellNow()['backup'])->toBeFalse();
});

it('raises an alarm once, mails it to who administers, and clears it when all is well or somebody has looked after it', function () {
    User::query()->where('sign_in', 'admin')->update(['mail' => 'wystan@tarnwick.example']);
    User::query()->where('sign_in', 'reader')->update(['mail' => 'isla@tarnwick.example']);
    foreach (range(1, 3) as $time) {
        Alarms::raise('disk', 'The disk of the documents is nearly full.');
    }
    expect(DB::table('outbox')->pluck('to')->all())->toBe(['wystan@tarnwick.example']);
    $this->as('admin')->getJson('/api/session')->assertJsonPath('user.alarms', 1);
    $this->as('reader')->getJson('/api/session')->assertJsonPath('user.alarms', 0);
    Alarms::clear('disk');
    expect(Alarms::open())->toBe([]);
    Alarms::raise('disk', 'The disk of the documents is nearly full.');
    $id = Alarms::open()[0]['id'];
    $this->as('admin')->postJson("/api/office/health/{$id}/done")->assertOk()->assertJsonPath('alarms', []);
    $this->postJson("/api/office/health/{$id}/done")->assertNotFound();
});

it('raises alarms by itself, and clears them by itself', function () {
    $this->artisan('brenvic:care', ['--once' => true])->assertSuccessful();
    $kinds = array_column(Alarms::open(), 'kind');
    expect($kinds)->toContain('first worker', 'second worker', 'watcher')->not->toContain('backup', 'disk', 'carer');
    Beats::beat('2');
    $this->artisan('brenvic:care', ['--once' => true])->assertSuccessful();
    expect(array_column(Alarms::open(), 'kind'))->not->toContain('second worker');
});

it('names every request, and says the name with a fault', function () {
    DB::statement('ALTER TABLE saved_searches RENAME TO elsewhere');
    $answer = $this->as('reader')->getJson('/api/searches')->assertStatus(500);
    expect($answer->json('error.request'))->toMatch('/^[0-9a-f]{32}$/')->toBe($answer->headers->get(NamedRequest::HEADER));
    expect((string) $answer->getContent())->not->toContain('saved_searches');
    // A name that somebody invents is not taken.
    expect($this->getJson('/api/session', [NamedRequest::HEADER => "x\ny"])->headers->get(NamedRequest::HEADER))->toMatch('/^[0-9a-f]{32}$/');
    $given = str_repeat('ab', 16);
    expect($this->getJson('/api/session', [NamedRequest::HEADER => $given])->headers->get(NamedRequest::HEADER))->toBe($given);
});

it('writes no personal values into the log', function () {
    $log = static fn (Throwable $fault): string => (string) json_encode(
        PlainLog::plain(new LogRecord(new DateTimeImmutable(), 'x', Level::Error, $fault->getMessage(), ['exception' => $fault, 'userId' => 7])),
    );
    $query = new QueryException('sqlite', 'select * from users where name = ?', ['Isla Thorne'], new PDOException('no such table: users for Isla'));
    $query->errorInfo = ['HY000', 1, 'no such table: users'];
    $wrapped = new RuntimeException('The person “Isla Thorne” is not there', 0, $query);
    foreach ([$query, $wrapped] as $fault) {
        $written = $log($fault);
        expect($written)->not->toContain('Thorne')->not->toContain('userId')->toContain($fault::class === QueryException::class ? 'name = ?' : 'is not there');
    }
});
