<?php

declare(strict_types=1);

use App\Models\Right;
use App\Models\User;
use App\People\Tokens;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Testing\TestResponse;

/** A token of a person. */
function tokenOf(string $who, array $rights = [Right::Read, Right::File, Right::Change], ?array $libraries = null): string
{
    return Tokens::make(User::query()->where('sign_in', $who)->firstOrFail(), 'x', $rights, 5, $libraries);
}

/** A program, which has no session and no cookie. */
function programAsks(string $token, string $method, string $path, array $body = [], array $headers = []): TestResponse
{
    auth()->forgetGuards();
    app('session')->flush();
    app()->forgetScopedInstances();
    freshRoutes();
    test()->flushHeaders();

    return test()->withHeaders([...$token === '' ? [] : ['Authorization' => "Bearer {$token}"], ...$headers])->json($method, "/api/v1/{$path}", $body);
}

beforeEach(function () {
    Cache::flush();
    RateLimiter::clear('token/127.0.0.1');
    $this->ref = stoppageOf('2001', [], 'The sluice is shut.');
});

it('is the API of the interface under a name that stays, for tokens only', function () {
    $token = tokenOf('clerk');
    programAsks($token, 'GET', "documents/{$this->ref}")->assertOk()->assertJsonPath('ref', $this->ref)->assertCookieMissing('brenvic_session');
    expect(programAsks($token, 'POST', 'search', ['words' => 'sluice'])->assertOk()->json('total'))->toBe(1);
    programAsks('', 'GET', "documents/{$this->ref}")->assertUnauthorized()->assertHeader('WWW-Authenticate', 'Bearer')->assertHeader('Content-Type', 'application/problem+json');
    // A session is not for programs.
    $this->flushHeaders();
    $this->as('clerk')->getJson("/api/v1/documents/{$this->ref}")->assertUnauthorized();
    $description = $this->getJson('/api/v1/openapi.json')->assertOk()->json();
    expect($description['openapi'])->toStartWith('3.1')->and($description['servers'])->toBe([['url' => '/api/v1']])->and($description['paths'])->toHaveKey('/documents/{document}');
});

it('says what is wrong as problem details', function () {
    $token = tokenOf('reader', [Right::Read]);
    $problem = programAsks($token, 'GET', 'documents/D-99999-X')->assertNotFound()->assertHeader('Content-Type', 'application/problem+json')->json();
    expect($problem)->toMatchArray(['type' => 'urn:brenvic:problem:not_found', 'title' => 'Not Found', 'status' => 404])->and($problem['detail'])->toBeString();
    expect(programAsks($token, 'POST', 'search', ['criteria' => [['cql' => 'title = (']]])->assertUnprocessable()->json())->toHaveKeys(['type', 'detail', 'position', 'suggestion']);
    expect(programAsks($token, 'POST', 'lists', ['name' => ''])->assertUnprocessable()->json('fields'))->toHaveKey('name');
    programAsks('brenvic_wrong', 'GET', 'me/tokens')->assertUnauthorized()->assertJsonPath('type', 'urn:brenvic:problem:sign_in');
    programAsks($token, 'GET', 'nothing/at/all')->assertNotFound()->assertJsonPath('status', 404);
});

it('does not send again what is as it was, and changes nothing that is other than is known', function () {
    $token = tokenOf('clerk');
    $first = programAsks($token, 'GET', "documents/{$this->ref}");
    $tag = (string) $first->headers->get('ETag');
    expect($tag)->toMatch('/^"1-[0-9a-f]{20}"$/');
    programAsks($token, 'GET', "documents/{$this->ref}", [], ['If-None-Match' => $tag])->assertStatus(304)->assertContent('');
    $sheet = ['title' => 'Shut again', 'type' => 'stoppage_notice', 'values' => ['document_date' => ['2003'], 'waterway' => ['tarn-sea']]];
    programAsks($token, 'PUT', "documents/{$this->ref}", $sheet, ['If-Match' => $tag])->assertOk();
    programAsks($token, 'GET', "documents/{$this->ref}", [], ['If-None-Match' => $tag])->assertOk()->assertJsonPath('values.document_date.0.value', '2003');
    // Known as it was before, it is not changed.
    programAsks($token, 'PUT', "documents/{$this->ref}", [...$sheet, 'values' => ['document_date' => ['1888'], 'waterway' => ['tarn-sea']]], ['If-Match' => $tag])->assertStatus(412)->assertJsonPath('type', 'urn:brenvic:problem:stale');
    expect(valuesOf($this->ref, 'document_date'))->toBe(['2003']);
});

it('does once what is sent twice with a key', function () {
    $token = tokenOf('clerk');
    $make = static fn (array $body, string $key, string $by = ''): TestResponse => programAsks($by ?: $token, 'POST', 'lists', $body, ['Idempotency-Key' => $key]);
    $first = $make(['name' => 'Once'], 'k1')->assertSuccessful();
    $again = $make(['name' => 'Once'], 'k1')->assertSuccessful()->assertHeader('Idempotency-Replayed', 'true');
    expect($again->json('id'))->toBe($first->json('id'));
    $make(['name' => 'Other'], 'k1')->assertUnprocessable()->assertJsonPath('type', 'urn:brenvic:problem:key_reused');
    expect($make(['name' => 'Once'], 'k2')->json('id'))->not->toBe($first->json('id'));
    // The key of somebody else is another.
    expect($make(['name' => 'Once'], 'k1', tokenOf('reader', [Right::Read]))->headers->get('Idempotency-Replayed'))->toBeNull();
    $make(['name' => 'x'], str_repeat('k', 201))->assertStatus(400);
    $at = Cache::lock('once/'.hash('sha256', 'v1/'.hash('sha256', $token)."\nk3").'/at-it', 60);
    $at->get();
    $make(['name' => 'x'], 'k3')->assertStatus(409)->assertJsonPath('type', 'urn:brenvic:problem:in_progress');
    $at->release();
    // What was refused is refused again, and can be sent rightly with another key.
    $make(['name' => ''], 'k4')->assertUnprocessable();
    $make(['name' => ''], 'k4')->assertUnprocessable()->assertHeader('Idempotency-Replayed', 'true');
});

it('says how much may be asked, and stops who asks more', function () {
    $token = tokenOf('reader', [Right::Read]);
    $answer = programAsks($token, 'GET', 'me/tokens')->assertOk()->assertHeader('RateLimit-Limit', '600');
    expect((int) $answer->headers->get('RateLimit-Remaining'))->toBe(599);
    for ($i = 0; $i < 599; $i++) {
        RateLimiter::hit('v1/'.hash('sha256', $token));
    }
    $stopped = programAsks($token, 'GET', 'me/tokens')->assertStatus(429)->assertJsonPath('type', 'urn:brenvic:problem:too_many');
    expect((int) $stopped->headers->get('Retry-After'))->toBeGreaterThan(0)->toBeLessThanOrEqual(60);
    programAsks(tokenOf('reader', [Right::Read]), 'GET', 'me/tokens')->assertOk();
});

it('lets a token into the libraries that it is for, and into no other', function () {
    $other = $this->filed('The sluice of the incident', 'x.txt', 'incident_report', ['document_date' => ['2024'], 'severity' => ['minor']], 'harbour');
    $only = tokenOf('clerk', [Right::Read], ['harbour']);
    expect(array_column(programAsks($only, 'POST', 'search', ['words' => 'sluice'])->json('rows'), 'ref'))->toBe([$other]);
    programAsks($only, 'GET', "documents/{$this->ref}")->assertNotFound();
    expect(array_column(programAsks(tokenOf('clerk', [Right::Read]), 'POST', 'search', ['words' => 'sluice'])->json('rows'), 'ref'))->toEqualCanonicalizing([$this->ref, $other]);
    $this->flushHeaders();
    app()->forgetScopedInstances();
    freshRoutes();
    App\Served\Asking::serve(null);
    expect((string) $this->withHeaders(['Authorization' => "Bearer {$only}"])->get('/sru?query=sluice')->getContent())->toContain('<numberOfRecords>1<');
    $this->flushHeaders();
    $make = fn (?array $libraries) => $this->as('reader')->postJson('/api/me/tokens', ['name' => 'x', 'rights' => ['read'], 'days' => 5, 'libraries' => $libraries]);
    $make(['board'])->assertUnprocessable();
    $make([])->assertUnprocessable();
    expect($make(['harbour'])->assertCreated()->json('tokens.0.libraries'))->toBe(['harbour']);
});
