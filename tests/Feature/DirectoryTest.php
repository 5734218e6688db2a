<?php

declare(strict_types=1);

use App\Models\User;
use App\People\Directory;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;

require_once __DIR__.'/../directory-server.php';

beforeEach(function () {
    if (! DirectoryServer::isThere()) {
        $this->markTestSkipped('slapd or php8.2-ldap is not installed.');
    }
    foreach (['reader', 'clerk', 'a)(uid=reader'] as $name) {
        RateLimiter::clear("sign-in/{$name}/127.0.0.1");
    }
    RateLimiter::clear('sign-in/127.0.0.1');
    $this->directory = new DirectoryServer();
    $this->directory->start(['reader' => 'in the directory', 'clerk' => 'of the clerk', 'stranger' => 'of a stranger']);
    config(['brenvic.directory' => ['url' => $this->directory->address(), 'name' => 'uid={sign_in},ou=people,dc=tarnwick,dc=example']]);
    $this->signIn = fn (string $name, string $password) => $this->postJson('/api/session', ['sign_in' => $name, 'password' => $password]);
    User::query()->where('sign_in', 'reader')->update(['known_by' => 'directory']);
});

it('asks the directory for the passwords of those who are known there, and for no others', function () {
    ($this->signIn)('reader', 'in the directory')->assertOk()->assertJsonPath('user.known_by', 'directory');
    // What they had here is theirs no more.
    ($this->signIn)('reader', 'tarnwick')->assertUnprocessable();
    ($this->signIn)('clerk', 'of the clerk')->assertUnprocessable();
    ($this->signIn)('clerk', 'tarnwick')->assertOk();
    // Whoever the directory knows is nobody here before they are made.
    ($this->signIn)('stranger', 'of a stranger')->assertUnprocessable();
    // A bind without a password succeeds as nobody.
    expect(Directory::knows('reader', ''))->toBeFalse();
    foreach (['reader,ou=people', 'a)(uid=reader', '*', "reader\0", '#reader'] as $odd) {
        expect(Directory::knows($odd, 'in the directory'))->toBeFalse();
    }
});

it('changes no password that is in the directory, and mails no code for it', function () {
    $this->as('reader')
        ->putJson('/api/me/password', ['current' => 'in the directory', 'password' => 'seven quiet locks'])
        ->assertUnprocessable()
        ->assertSee('directory of the office');
    User::query()->where('sign_in', 'reader')->update(['mail' => 'isla@tarnwick.example']);
    $this->postJson('/api/session/forgotten', ['sign_in' => 'reader'])->assertNoContent();
    expect(DB::table('outbox')->count())->toBe(0);
    $this->as('reader')->putJson('/api/me', ['name' => 'Isla', 'mail' => 'other@tarnwick.example', 'current' => 'in the directory'])->assertOk();
});

it('says when the directory does not answer, which is no wrong password', function () {
    $this->directory->stop();
    ($this->signIn)('reader', 'in the directory')->assertUnprocessable()->assertSee('does not answer');
    expect(DB::table('history')->where('act', 'sign_in_failed')->count())->toBe(0);
    ($this->signIn)('clerk', 'tarnwick')->assertOk();
});
