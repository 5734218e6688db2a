<?php

declare(strict_types=1);

use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;

beforeEach(function () {
    RateLimiter::clear('sign-in/127.0.0.1');
    $this->signIn = fn (string $password, string $name = 'reader', array $more = []) => $this->postJson('/api/session', [
        'sign_in' => $name,
        'password' => $password,
        ...$more,
    ]);
    User::query()
        ->where('sign_in', 'reader')
        ->firstOrFail()
        ->update(['password' => 'right-word']);
    for ($i = 0; $i < 3; $i++) {
        RateLimiter::clear('sign-in/reader/127.0.0.1');
    }
});

it('counts failures by name and network, and lets other networks and names be', function () {
    for ($i = 0; $i < 10; $i++) {
        ($this->signIn)('wrong')->assertUnprocessable();
    }
    ($this->signIn)('wrong')->assertStatus(429)->assertHeader('Retry-After');
    ($this->signIn)('wrong', 'clerk')->assertUnprocessable();
    $this->withServerVariables(['REMOTE_ADDR' => '192.0.2.7']);
    ($this->signIn)('right-word')->assertOk();
});

it('never locks out a browser in which the person has signed in before', function () {
    $known = ($this->signIn)('right-word')->assertOk()->getCookie('brenvic_known')->getValue();
    $this->deleteJson('/api/session')->assertNoContent();
    for ($i = 0; $i < 11; $i++) {
        ($this->signIn)('wrong');
    }
    ($this->signIn)('right-word')->assertStatus(429);
    $this->withCredentials()
        ->withCookie('brenvic_known', $known)
        ->postJson('/api/session', ['sign_in' => 'reader', 'password' => 'right-word'])
        ->assertOk();
});

it('does not count what succeeds', function () {
    for ($i = 0; $i < 15; $i++) {
        ($this->signIn)('right-word')->assertOk();
    }
});

it('does as much work for a name that nobody has as for a wrong password', function () {
    $hashes = new class(app()) extends Illuminate\Hashing\HashManager
    {
        public int $checks = 0;

        public function check(#[SensitiveParameter] $value, $hashedValue, array $options = [])
        {
            $this->checks++;

            return parent::check($value, $hashedValue, $options);
        }
    };
    Hash::swap($hashes);
    $known = ($this->signIn)('wrong')->assertUnprocessable()->json();
    $unknown = ($this->signIn)('wrong', 'nobody-at-all')->assertUnprocessable()->json();
    expect($hashes->checks)->toBe(2)->and($unknown)->toBe($known);
});

it('stays signed in only when asked to, and not after signing out', function () {
    $kept = static fn (Illuminate\Testing\TestResponse $answer): int => $answer->getCookie('brenvic_session')->getExpiresTime();
    expect($kept(($this->signIn)('right-word')))->toBe(0);
    expect($kept(($this->signIn)('right-word', more: ['stay' => true])))->toBeGreaterThan(time() + 29 * 86_400);
    expect(DB::table('sessions')->where('stays', true)->count())->toBe(1);
    $this->deleteJson('/api/session')->assertNoContent();
    expect(DB::table('sessions')->where('stays', true)->count())->toBe(0);
    $this->getJson('/api/desk')->assertUnauthorized();
});

it('answers only by addresses that it knows, and puts the set one into links', function () {
    $ref = $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $link = fn (array $headers = []) => $this->as('clerk')->postJson(
        "/api/documents/{$ref}/links",
        ['most_uses' => 1, 'days' => 1],
        $headers,
    );
    expect(
        $link(['X-Forwarded-Host' => 'evil.example'])
            ->assertCreated()
            ->json('address'),
    )->toMatch('~^http://localhost(:8080)?/outside/~');
    config(['brenvic.url' => 'https://records.tarnwick.example']);
    expect($link()->json('address'))->toStartWith('https://records.tarnwick.example/outside/');
    $this->get('http://records.tarnwick.example/api/session')->assertOk();
    $this->get('http://evil.example/api/session')->assertStatus(400);
});

it('believes proxies that are set, and no others', function () {
    $from = fn (): ?string => $this->getJson('/api/session', ['X-Forwarded-For' => '203.0.113.9'])->assertOk() ? request()->ip() : null;
    expect($from())->toBe('127.0.0.1');
    Illuminate\Http\Middleware\TrustProxies::at(['127.0.0.1']);
    expect($from())->toBe('203.0.113.9');
    Illuminate\Http\Middleware\TrustProxies::at([]);
});

it('counts looking at a link apart from fetching it, and keeps no file in the browser', function () {
    $ref = $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $address = (string) parse_url(
        (string) $this->as('clerk')
            ->postJson("/api/documents/{$ref}/links", ['most_uses' => 1, 'days' => 1])
            ->json('address'),
        PHP_URL_PATH,
    );
    expect(
        $this->get("/api/documents/{$ref}/file")
            ->assertOk()
            ->headers->get('Cache-Control'),
    )->toContain('no-store');
    auth()->logout();
    for ($i = 0; $i < 15; $i++) {
        $this->get($address)->assertOk();
    }
    $this->post($address)->assertOk();
});

it('loads nothing from elsewhere, but for Vite while the interface is worked on', function () {
    $policy = fn (): string => (string) $this->get('/find')->assertOk()->headers->get('Content-Security-Policy');
    expect($policy())->toContain("default-src 'self'")->not->toContain('http')->not->toContain('ws:');
    config(['brenvic.vite' => '127.0.0.1:8082']);
    expect($policy())
        ->toContain("script-src http://127.0.0.1:8082 'self'")
        ->toContain('ws://127.0.0.1:8082')
        ->toContain("object-src 'none'");
});
