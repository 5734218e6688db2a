<?php

declare(strict_types=1);

use App\Models\User;
use App\People\SecondFactor;
use App\People\Sessions;
use Brenvic\Core\SignIn\OneTimePassword;
use Illuminate\Http\Middleware\TrustProxies;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;

beforeEach(function () {
    $this->signIn = fn (array $more = []) => $this->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'tarnwick', 'stay' => false, ...$more]);
    $this->reader = User::query()->where('sign_in', 'reader')->firstOrFail();
    foreach (['sign-in/reader/127.0.0.1', 'sign-in/127.0.0.1', "factor/{$this->reader->id}"] as $key) {
        RateLimiter::clear($key);
    }
    // A browser of its own, as somebody has it at another computer.
    $this->elsewhere = function (): void {
        $this->app['session']->flush();
        auth()->forgetGuards();
    };
    $this->rules = fn (array $given) => DB::table('office_settings')->upsert(
        ['name' => 'sign_in', 'value' => json_encode(['idle_minutes' => 60, 'hours' => 10, 'stay_days' => 7, 'second_factor' => false, ...$given])],
        ['name'],
        ['value'],
    );
});

it('ends what nobody used, and everything in the end, as the office has it', function () {
    ($this->rules)([]);
    ($this->signIn)()->assertOk();
    for ($hour = 1; $hour <= 9; $hour++) {
        $this->travel(59)->minutes();
        $this->getJson('/api/desk')->assertOk();
    }
    $this->travel(61)->minutes();
    $this->getJson('/api/desk')->assertUnauthorized();
    expect(DB::table('sessions')->count())->toBe(0);
    ($this->signIn)()->assertOk();
    for ($half = 1; $half < 20; $half++) {
        $this->travel(30)->minutes();
        $this->getJson('/api/desk')->assertOk();
    }
    $this->travel(31)->minutes();
    $this->getJson('/api/desk')->assertUnauthorized();
});

it('lets who wanted to stay signed in be idle, for as many days as the office has it', function () {
    ($this->rules)([]);
    ($this->signIn)(['stay' => true])->assertOk();
    $this->travel(6)->days();
    $this->getJson('/api/desk')->assertOk();
    $this->travel(25)->hours();
    $this->getJson('/api/desk')->assertUnauthorized();
    ($this->rules)(['stay_days' => 0]);
    expect(($this->signIn)(['stay' => true])->assertOk()->getCookie('brenvic_session')->getExpiresTime())->toBe(0);
    $this->travel(61)->minutes();
    $this->getJson('/api/desk')->assertUnauthorized();
});

it('lists one’s sessions, and ends one or all others', function () {
    ($this->signIn)()->assertOk();
    ($this->elsewhere)();
    $this->withHeader('User-Agent', 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0');
    ($this->signIn)()->assertOk();
    $sessions = $this->getJson('/api/me/sessions')->assertOk()->json('sessions');
    expect(array_column($sessions, 'is_this'))->toBe([true, false])->and($sessions[0]['browser'])->toBe('Firefox on Linux');
    expect(DB::table('sessions')->pluck('key_hash')->all())->not->toContain(session('session_key'));
    $clerk = DB::table('sessions')->insertGetId([
        'key_hash' => 'x', 'user_id' => User::query()->where('sign_in', 'clerk')->value('id'), 'begun_at' => now(), 'seen_at' => now(),
        'address' => '', 'browser' => '', 'stays' => false,
    ]);
    $this->deleteJson("/api/me/sessions/{$clerk}")->assertNotFound();
    $this->deleteJson("/api/me/sessions/{$sessions[1]['id']}")->assertOk()->assertJsonCount(1, 'sessions');
    ($this->elsewhere)();
    ($this->signIn)()->assertOk();
    $this->deleteJson('/api/me/sessions')->assertOk()->assertJsonCount(1, 'sessions');
    $this->getJson('/api/desk')->assertOk();
    // The one that asks can be ended too, and by an administrator any.
    $this->deleteJson('/api/me/sessions/'.DB::table('sessions')->where('user_id', $this->reader->id)->value('id'))->assertOk();
    $this->getJson('/api/desk')->assertUnauthorized();
    ($this->signIn)()->assertOk();
    $key = session('session_key');
    $this->as('admin')->deleteJson("/api/office/people/{$this->reader->id}/sessions")->assertOk();
    $this->withSession(['session_key' => $key]);
    $this->actingAs($this->reader)->getJson('/api/desk')->assertUnauthorized();
});

it('turns a second factor on, asks for it, takes no code twice, and lets in by a recovery code once', function () {
    $this->travelTo('2025-03-03 09:00:10');
    ($this->signIn)()->assertOk()->assertJsonMissingPath('needs_factor');
    $begun = $this->postJson('/api/me/factor')->assertOk()->json();
    expect($begun['address'])->toBe("otpauth://totp/Brenvic:reader?secret={$begun['secret']}&issuer=Brenvic")->and($begun['qr'])->toContain('<svg');
    $code = static fn (int $steps = 0): string => OneTimePassword::at($begun['secret'], intdiv(now()->getTimestamp(), 30) + $steps);
    $this->putJson('/api/me/factor', ['code' => '000000', 'current' => 'tarnwick'])->assertUnprocessable()->assertJsonPath('error.fields.code', fn ($m) => str_contains($m, 'clock'));
    $this->putJson('/api/me/factor', ['code' => $code(), 'current' => 'wrong'])->assertUnprocessable();
    $recovery = $this->putJson('/api/me/factor', ['code' => $code(), 'current' => 'tarnwick'])
        ->assertOk()
        ->assertJsonPath('user.factor.is_on', true)
        ->json('recovery_codes');
    expect($recovery)->toHaveCount(10)->each->toMatch('/^[a-z2-7]{5}-[a-z2-7]{5}-[a-z2-7]{5}$/');
    expect(DB::table('users')->where('id', $this->reader->id)->value('factor_secret'))->not->toContain($begun['secret']);
    $this->postJson('/api/me/factor')->assertUnprocessable();

    ($this->elsewhere)();
    ($this->signIn)()->assertOk()->assertExactJson(['user' => null, 'needs_factor' => true]);
    $this->getJson('/api/desk')->assertUnauthorized();
    // The code with which it was turned on is used up.
    $this->postJson('/api/session/factor', ['code' => $code()])->assertUnprocessable();
    $this->travel(30)->seconds();
    $this->postJson('/api/session/factor', ['code' => $code()])->assertOk()->assertJsonPath('user.sign_in', 'reader');
    $this->getJson('/api/desk')->assertOk();

    ($this->elsewhere)();
    ($this->signIn)()->assertOk();
    $this->postJson('/api/session/factor', ['code' => strtoupper($recovery[3])])->assertOk()->assertJsonPath('user.factor.recovery_codes', 9);
    ($this->elsewhere)();
    ($this->signIn)()->assertOk();
    $this->postJson('/api/session/factor', ['code' => $recovery[3]])->assertUnprocessable();
    // A first half is good for five minutes.
    $this->travel(301)->seconds();
    $this->postJson('/api/session/factor', ['code' => $code()])->assertUnprocessable()->assertSee('took too long');
    expect(DB::table('history')->pluck('act')->all())->toContain('factor_on', 'recovery_used', 'sign_in_failed');

    ($this->signIn)()->assertOk();
    $this->postJson('/api/session/factor', ['code' => $code()])->assertOk();
    $this->deleteJson('/api/me/factor', ['current' => 'wrong'])->assertUnprocessable();
    $this->deleteJson('/api/me/factor', ['current' => 'tarnwick'])->assertOk()->assertJsonPath('user.factor.is_on', false);
    expect(SecondFactor::isOn($this->reader->refresh()))->toBeFalse();
});

it('counts wrong codes of a second factor, whatever browser they come from', function () {
    SecondFactor::turnOn($this->reader, OneTimePassword::secret(), 0);
    for ($i = 0; $i < 10; $i++) {
        ($this->elsewhere)();
        ($this->signIn)()->assertOk();
        $this->postJson('/api/session/factor', ['code' => '000000'])->assertUnprocessable();
    }
    $this->postJson('/api/session/factor', ['code' => '000000'])->assertStatus(429);
    $this->as('admin')->deleteJson("/api/office/people/{$this->reader->id}/factor")->assertOk();
    ($this->elsewhere)();
    ($this->signIn)()->assertOk()->assertJsonPath('user.sign_in', 'reader');
});

it('lets nobody do anything without a second factor where the office wants one', function () {
    $this->as('admin')->putJson('/api/office/rules', ['idle_minutes' => 60, 'hours' => 10, 'stay_days' => 7, 'second_factor' => true])->assertOk();
    ($this->elsewhere)();
    ($this->signIn)()->assertOk()->assertJsonPath('user.factor.is_wanted', true);
    $this->getJson('/api/desk')->assertForbidden()->assertSee('second factor');
    $this->getJson('/api/session')->assertOk();
    $begun = $this->postJson('/api/me/factor')->assertOk()->json();
    $code = OneTimePassword::at($begun['secret'], intdiv(now()->getTimestamp(), 30));
    $this->putJson('/api/me/factor', ['code' => $code, 'current' => 'tarnwick'])->assertOk();
    $this->getJson('/api/desk')->assertOk();
    $this->deleteJson('/api/me/factor', ['current' => 'tarnwick'])->assertUnprocessable();
    foreach ([['idle_minutes' => 1], ['hours' => 0], ['stay_days' => -1], ['second_factor' => 'perhaps']] as $wrong) {
        SecondFactor::turnOn(User::query()->where('sign_in', 'admin')->firstOrFail(), OneTimePassword::secret(), 0);
        $this->as('admin')->putJson('/api/office/rules', ['idle_minutes' => 60, 'hours' => 10, 'stay_days' => 7, 'second_factor' => true, ...$wrong])->assertUnprocessable();
    }
});

it('mails a code to who forgot their password, and answers everybody alike', function () {
    $this->reader->update(['mail' => 'isla@tarnwick.example']);
    $known = $this->postJson('/api/session/forgotten', ['sign_in' => 'reader'])->assertNoContent();
    $unknown = $this->postJson('/api/session/forgotten', ['sign_in' => 'nobody'])->assertNoContent();
    $this->postJson('/api/session/forgotten', ['sign_in' => 'clerk'])->assertNoContent();
    expect(DB::table('outbox')->pluck('to')->all())->toBe(['isla@tarnwick.example'])->and($known->getContent())->toBe($unknown->getContent());
    preg_match('/[a-z2-9]{4}(-[a-z2-9]{4}){3}/', (string) DB::table('outbox')->value('text'), $m);
    $this->postJson('/api/session/code', ['sign_in' => 'reader', 'code' => $m[0], 'password' => 'short but known'])->assertOk();
    for ($i = 0; $i < 5; $i++) {
        $last = $this->postJson('/api/session/forgotten', ['sign_in' => 'nobody']);
    }
    $last->assertStatus(429);
});

it('changes one’s name at once, and one’s address with the password', function () {
    $this->as('reader')->putJson('/api/me', ['name' => 'Isla Thorne-Dale', 'mail' => null])->assertOk()->assertJsonPath('user.name', 'Isla Thorne-Dale');
    $this->putJson('/api/me', ['name' => 'Isla', 'mail' => 'isla@tarnwick.example'])->assertUnprocessable()->assertJsonPath('error.fields.current', 'This is not the password you have now.');
    $this->putJson('/api/me', ['name' => '', 'mail' => null])->assertUnprocessable();
    $this->putJson('/api/me', ['name' => 'Isla', 'mail' => 'isla@tarnwick.example', 'current' => 'tarnwick'])->assertOk();
    expect($this->reader->refresh()->mail)->toBe('isla@tarnwick.example');
});

it('believes who the proxy says is signed in, from the proxy alone', function () {
    config(['brenvic.trusted_header' => 'X-Remote-User', 'brenvic.proxies' => []]);
    $this->getJson('/api/session', ['X-Remote-User' => 'reader'])->assertJsonPath('user', null);
    config(['brenvic.proxies' => ['192.0.2.0/24']]);
    $this->getJson('/api/session', ['X-Remote-User' => 'reader'])->assertJsonPath('user', null);
    // Forwarding does not make a client a proxy.
    TrustProxies::at(['127.0.0.1']);
    $this->getJson('/api/session', ['X-Remote-User' => 'reader', 'X-Forwarded-For' => '192.0.2.9'])->assertJsonPath('user', null);
    TrustProxies::at([]);
    $this->withServerVariables(['REMOTE_ADDR' => '192.0.2.9']);
    $this->getJson('/api/session', ['X-Remote-User' => 'nobody'])->assertJsonPath('user', null);
    $this->getJson('/api/session', ['X-Remote-User' => 'reader'])->assertJsonPath('user.sign_in', 'reader');
    expect(DB::table('history')->where('act', 'signed_in')->count())->toBe(1);
    ($this->elsewhere)();
    config(['brenvic.trusted_header' => '']);
    $this->getJson('/api/session', ['X-Remote-User' => 'reader'])->assertJsonPath('user', null);
});

it('forgets sessions that are over', function () {
    ($this->rules)([]);
    ($this->signIn)()->assertOk();
    Sessions::clear();
    expect(DB::table('sessions')->count())->toBe(1);
    $this->travel(61)->minutes();
    Sessions::clear();
    expect(DB::table('sessions')->count())->toBe(0);
});

it('lets nobody in with a password of the demo where others can come', function () {
    config(['brenvic.url' => 'https://records.tarnwick.example']);
    $this->postJson('https://records.tarnwick.example/api/session', ['sign_in' => 'reader', 'password' => 'tarnwick'])
        ->assertUnprocessable()
        ->assertSee('on the machine itself only');
    $this->reader->update(['password' => 'seven quiet locks']);
    $this->postJson('https://records.tarnwick.example/api/session', ['sign_in' => 'reader', 'password' => 'seven quiet locks'])->assertOk();
});
