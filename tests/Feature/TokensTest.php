<?php

declare(strict_types=1);

use App\Models\Right;
use App\Models\User;
use App\People\People;
use App\People\Tokens;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;

beforeEach(function () {
    RateLimiter::clear('token/127.0.0.1');
    $this->ref = $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $this->clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    /** A program, which has no session and no cookie. */
    $this->program = function (string $token, string $method, string $path, array $body = []) {
        auth()->forgetGuards();
        $this->app['session']->flush();
        $this->app->forgetScopedInstances();

        return $this->withHeader('Authorization', "Bearer {$token}")->json($method, "/api/{$path}", $body);
    };
});

it('is made by its person with some of their rights, told once, listed, and revoked', function () {
    $make = fn (array $more) => $this->as('clerk')->postJson('/api/me/tokens', ['name' => 'Nightly list', 'rights' => ['read', 'download'], 'days' => 30, ...$more]);
    $token = $make([])->assertCreated()->json('token');
    expect($token)->toMatch('/^brenvic_[A-Za-z0-9]{40}$/')->and(DB::table('api_tokens')->value('token_hash'))->not->toContain($token);
    foreach ([['rights' => ['destroy']], ['rights' => []], ['rights' => ['fly']], ['days' => 0], ['days' => 1_000], ['name' => '']] as $wrong) {
        $make($wrong)->assertUnprocessable();
    }
    $listed = $this->getJson('/api/me/tokens')->assertOk()->assertJsonMissingPath('token')->json('tokens');
    expect($listed)->toHaveCount(1)->and($listed[0])->toMatchArray(['name' => 'Nightly list', 'rights' => ['read', 'download'], 'is_over' => false, 'used_at' => null]);
    ($this->program)($token, 'GET', "documents/{$this->ref}")->assertOk()->assertCookieMissing('brenvic_session')->assertCookieMissing('XSRF-TOKEN');
    expect(Tokens::of($this->clerk)[0]['used_at'])->not->toBeNull()->and(DB::table('sessions')->where('browser', '!=', 'Another program')->count())->toBe(0);
    $this->flushHeaders();
    $this->as('reader')->deleteJson("/api/me/tokens/{$listed[0]['id']}")->assertNotFound();
    $this->as('clerk')->deleteJson("/api/me/tokens/{$listed[0]['id']}")->assertOk()->assertJsonPath('tokens', []);
    ($this->program)($token, 'GET', "documents/{$this->ref}")->assertUnauthorized();
    expect(DB::table('history')->pluck('act')->all())->toContain('token_made', 'token_revoked');
});

it('may do what it was made for, and no more than its person may by then', function () {
    $read = Tokens::make($this->clerk, 'Reads', [Right::Read], 30);
    $files = Tokens::make($this->clerk, 'Files', [Right::File], 30);
    $both = Tokens::make($this->clerk, 'Reads and files', [Right::Read, Right::File], 30);
    ($this->program)($read, 'POST', 'search', ['words' => 'sluice'])->assertOk()->assertJsonPath('total', 1);
    ($this->program)($read, 'GET', 'intake')->assertForbidden();
    ($this->program)($read, 'GET', "documents/{$this->ref}/file?download=1")->assertForbidden();
    // Without the right to read nothing is seen.
    ($this->program)($files, 'GET', "documents/{$this->ref}")->assertNotFound();
    ($this->program)($files, 'POST', 'search', ['words' => 'sluice'])->assertOk()->assertJsonPath('total', 0);
    ($this->program)($both, 'GET', 'intake')->assertOk();
    $this->clerk->update(['role' => 'reader']);
    ($this->program)($both, 'GET', 'intake')->assertForbidden();
    ($this->program)($both, 'GET', "documents/{$this->ref}")->assertOk();
});

it('changes nothing about its person, and signs nobody in', function () {
    $token = Tokens::make($this->clerk, 'All', array_filter(Right::cases(), $this->clerk->may(...)), 30);
    foreach ([['PUT', 'me'], ['PUT', 'me/password'], ['POST', 'me/factor'], ['DELETE', 'me/sessions'], ['POST', 'me/tokens'], ['GET', 'session'], ['POST', 'session'], ['DELETE', 'session']] as [$method, $path]) {
        ($this->program)($token, $method, $path)->assertForbidden();
    }
    ($this->program)($token, 'GET', 'me/tokens')->assertOk();
});

it('is over with its time, with its person, and is guessed at by nobody for long', function () {
    $token = Tokens::make($this->clerk, 'Short', [Right::Read], 1);
    ($this->program)($token, 'GET', 'desk')->assertOk();
    $this->travel(25)->hours();
    ($this->program)($token, 'GET', 'desk')->assertUnauthorized();
    $token = Tokens::make($this->clerk, 'Longer', [Right::Read], 30);
    app(People::class)->putOut(null, $this->clerk, User::query()->where('sign_in', 'librarian')->first());
    ($this->program)($token, 'GET', 'desk')->assertUnauthorized();
    app(People::class)->bringBack(null, $this->clerk);
    ($this->program)($token, 'GET', 'desk')->assertUnauthorized();
    for ($i = 0; $i < 40; $i++) {
        $last = ($this->program)('brenvic_'.str_repeat('x', 40), 'GET', 'desk');
    }
    $last->assertStatus(429);
});

it('sees what its person sees, byte for byte', function () {
    $this->filed('The minute of the board.', 'm.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    foreach (['reader', 'clerk', 'librarian', 'manager', 'admin'] as $who) {
        $user = User::query()->where('sign_in', $who)->firstOrFail();
        $token = Tokens::make($user, 'All', array_values(array_filter(Right::cases(), $user->may(...))), 30);
        foreach ([['GET', 'desk', []], ['POST', 'search', ['words' => '']], ['GET', "documents/{$this->ref}/versions", []]] as [$method, $path, $body]) {
            $this->flushHeaders();
            $this->app->forgetScopedInstances();
            $own = $this->as($who)->json($method, "/api/{$path}", $body);
            $its = ($this->program)($token, $method, $path, $body);
            $plain = static fn (string $text): string => (string) preg_replace(['/"took_ms":[^,}]+/', '/"steps":\{[^}]*\}/', '/"read_at":[^,}]+/'], '', $text);
            expect($its->getStatusCode())->toBe($own->getStatusCode())->and($plain((string) $its->getContent()))->toBe($plain((string) $own->getContent()));
        }
    }
});
