<?php

declare(strict_types=1);

use App\History\History;
use App\Models\Group;
use App\Models\PullList;
use App\Models\SavedSearch;
use App\Models\User;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

beforeEach(function () {
    $this->add = fn (array $more = []) => $this->as('admin')->postJson('/api/office/people', [
        'name' => 'Wren Ashby',
        'sign_in' => 'w.ashby',
        'role' => 'clerk',
        'groups' => ['Everyone', 'Records office'],
        ...$more,
    ]);
    $this->person = fn (string $signIn): User => User::query()->where('sign_in', $signIn)->firstOrFail();
    $this->acts = fn (): array => DB::table('history')->whereNull('document_id')->orderBy('id')->pluck('act')->all();
    $this->inUse = fn (string $signIn): bool => $this->person->__invoke($signIn)->out_of_use_at === null;
});

it('makes a person, who chooses a password with a one-time code, once', function () {
    $code = ($this->add)()->assertCreated()->json('code');
    expect($code)
        ->toMatchArray(['sign_in' => 'w.ashby', 'name' => 'Wren Ashby'])
        ->and($code['code'])
        ->toMatch('/^[a-z0-9]{4}(-[a-z0-9]{4}){3}$/')
        ->and($code['address'])
        ->toEndWith('/?code=1&sign_in=w.ashby')
        ->and(json_encode($this->getJson('/api/office/people')->json()))
        ->not->toContain($code['code'])
        ->toContain('"has_code":true');
    auth()->logout();
    $choose = fn (array $more = []) => $this->postJson('/api/session/code', [
        'sign_in' => 'w.ashby',
        'code' => $code['code'],
        'password' => 'seven quiet locks',
        ...$more,
    ]);
    $choose(['code' => 'aaaa-bbbb-cccc-dddd'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.code', fn (string $m): bool => str_contains($m, 'Ask for a new one'));
    $choose(['password' => 'short'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.password', 'A password has at least 15 characters. Several words that do not belong together are easy to remember.');
    $choose(['password' => 'aaaaaaaaaaaa'])->assertUnprocessable();
    $choose(['code' => ' '.mb_strtoupper($code['code']).' '])
        ->assertOk()
        ->assertJsonPath('user.sign_in', 'w.ashby')
        ->assertJsonPath('user.may.file', true);
    $this->deleteJson('/api/session');
    $choose()->assertUnprocessable();
    $this->postJson('/api/session', ['sign_in' => 'w.ashby', 'password' => 'seven quiet locks'])->assertOk();
    expect(($this->acts)())
        ->toBe(['person_added', 'code_made', 'sign_in_failed', 'password_set', 'signed_in', 'sign_in_failed', 'signed_in'])
        ->and(History::verify())
        ->toMatchArray(['broken' => null, 'cut' => null]);
});

it('says what is wrong with a person, and makes none twice', function () {
    ($this->add)(['name' => ''])->assertJsonPath('error.fields.name', 'Give a name.');
    ($this->add)(['sign_in' => 'W Ashby'])->assertJsonPath(
        'error.fields.sign_in',
        fn (string $m): bool => str_starts_with($m, 'A sign-in name has lower-case letters'),
    );
    ($this->add)(['sign_in' => 'clerk'])->assertJsonPath('error.fields.sign_in', 'Somebody has this sign-in name.');
    ($this->add)(['role' => 'king'])->assertUnprocessable();
    ($this->add)(['groups' => ['Nowhere']])->assertUnprocessable();
    expect(User::query()->where('sign_in', 'w.ashby')->exists())->toBeFalse();
});

it('lets a code run out, and a newer one take its place', function () {
    $first = ($this->add)()->json('code.code');
    $second = $this->postJson('/api/office/people/'.($this->person)('w.ashby')->id.'/code')
        ->assertOk()
        ->json('code.code');
    auth()->logout();
    $choose = fn (string $code) => $this->postJson('/api/session/code', [
        'sign_in' => 'w.ashby',
        'code' => $code,
        'password' => 'seven quiet locks',
    ]);
    $choose($first)->assertUnprocessable();
    $this->travel(8)->days();
    $choose($second)->assertUnprocessable();
});

it('mails a code to whoever has an address, until it is used or replaced', function () {
    ($this->add)(['mail' => 'no address'])->assertJsonPath('error.fields.mail', 'This is not an e-mail address.');
    $code = ($this->add)(['mail' => 'wren@tarnwick.example'])
        ->assertCreated()
        ->assertJsonPath('code.mailed_to', 'wren@tarnwick.example')
        ->json('code.code');
    $mails = fn (): array => $this->as('admin')->getJson('/api/outbox')->assertOk()->json('mails');
    expect($mails())
        ->toHaveCount(1)
        ->and($mails()[0])
        ->toMatchArray(['to' => 'wren@tarnwick.example', 'delivery' => null, 'files' => [], 'there' => false])
        ->and($mails()[0]['text'])
        ->toContain($code)
        ->toContain('/?code=1&sign_in=w.ashby');
    $this->as('librarian')->getJson('/api/outbox')->assertJsonPath('mails', []);
    $second = $this->as('admin')
        ->postJson('/api/office/people/'.($this->person)('w.ashby')->id.'/code')
        ->json('code.code');
    expect(array_column($mails(), 'text')[1])
        ->toBe('The one-time code of this message is no longer good.')
        ->and($mails()[0]['text'])
        ->toContain($second);
    auth()->logout();
    $this->postJson('/api/session/code', ['sign_in' => 'w.ashby', 'code' => $second, 'password' => 'seven quiet locks'])->assertOk();
    expect(json_encode($mails()))->not->toContain($second)->and(json_encode(DB::table('history')->get()))->not->toContain($second);
    // An address that is changed is in the history, and taken away again.
    $this->as('admin')
        ->putJson('/api/office/people/'.($this->person)('w.ashby')->id, [
            'name' => 'Wren Ashby',
            'role' => 'clerk',
            'groups' => ['Everyone'],
            'mail' => null,
        ])
        ->assertOk();
    $this->postJson('/api/office/people/'.($this->person)('w.ashby')->id.'/code')->assertJsonPath('code.mailed_to', null);
    expect($mails())->toHaveCount(2);
});

it('changes name, role and groups at once, and keeps what was', function () {
    $clerk = ($this->person)('clerk');
    $this->as('admin')
        ->putJson("/api/office/people/{$clerk->id}", ['name' => 'Fenwick Dale-Orr', 'role' => 'reader', 'groups' => ['Everyone']])
        ->assertOk();
    expect(json_decode((string) DB::table('history')->where('act', 'person_changed')->value('detail'), true))->toBe([
        'person' => 'clerk',
        'name' => ['was' => 'Fenwick Dale', 'is' => 'Fenwick Dale-Orr'],
        'role' => ['was' => 'clerk', 'is' => 'reader'],
        'groups' => ['was' => ['Everyone', 'Records office'], 'is' => ['Everyone']],
    ]);
    $this->as('clerk')->getJson('/api/intake')->assertForbidden();
    // The librarian’s change of groups is a change of rights too.
    $this->as('librarian')
        ->putJson("/api/design/people/{$clerk->id}", ['groups' => ['Everyone', 'Records office']])
        ->assertOk();
    expect(DB::table('history')->where('act', 'person_changed')->count())->toBe(2);
});

it('puts a person out of use, hands on what is in hand, and brings them back', function () {
    $clerk = ($this->person)('clerk');
    $manager = ($this->person)('manager');
    ($this->add)()->assertCreated();
    $other = ($this->person)('w.ashby');
    $waiting = $this->upload('Waiting', 'w.txt')->json('ref');
    $filed = $this->filed('Text', 'a.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $this->as('clerk')
        ->postJson("/api/documents/{$filed}/check-out")
        ->assertOk();
    $list = $this->postJson('/api/lists', ['name' => 'Mine'])->json('id');
    $this->postJson('/api/searches', ['name' => 'Ours', 'search' => ['words' => 'x'], 'groups' => ['Everyone']])->assertCreated();
    $this->postJson('/api/searches', ['name' => 'Only mine', 'search' => ['words' => 'x']])->assertCreated();
    $out = fn (?int $to) => $this->as('admin')->postJson("/api/office/people/{$clerk->id}/out", ['to' => $to]);
    $out(null)
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'Choose who takes them over'));
    $out($clerk->id)->assertUnprocessable();
    $out($manager->id)->assertUnprocessable()->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'may not file'));
    expect(($this->inUse)('clerk'))->toBeTrue();
    $out($other->id)->assertOk();
    expect(DB::table('check_outs')->value('user_id'))
        ->toBe($other->id)
        ->and(DB::table('documents')->where('ref', $waiting)->value('created_by'))
        ->toBe($other->id)
        ->and(PullList::query()->findOrFail($list)->user_id)
        ->toBe($other->id)
        ->and(SavedSearch::query()->where('name', 'Ours')->value('user_id'))
        ->toBe($other->id)
        ->and(SavedSearch::query()->where('name', 'Only mine')->value('user_id'))
        ->toBe($clerk->id)
        // Who filed what stays in the history.
        ->and(DB::table('history')->where('act', 'filed')->value('user_id'))
        ->toBe($clerk->id);
    // Signed out at once, and not let in any more, whatever the password.
    $this->as('clerk')->getJson('/api/desk')->assertUnauthorized();
    $this->as('clerk')->getJson('/api/session')->assertOk()->assertJsonPath('user', null);
    $this->postJson('/api/session', ['sign_in' => 'clerk', 'password' => 'tarnwick'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.sign_in', 'The sign-in name or the password is wrong. Try again.');
    $this->as('admin')
        ->postJson("/api/office/people/{$clerk->id}/back")
        ->assertOk();
    auth()->logout();
    $this->postJson('/api/session', ['sign_in' => 'clerk', 'password' => 'tarnwick'])->assertOk();
});

it('leaves nobody without an administrator or without who designs', function () {
    $admin = ($this->person)('admin');
    $this->as('admin')
        ->postJson("/api/office/people/{$admin->id}/out")
        ->assertUnprocessable();
    $this->putJson("/api/office/people/{$admin->id}", ['name' => 'W', 'role' => 'reader', 'groups' => []])
        ->assertUnprocessable()
        ->assertJsonPath('error.message', fn (string $m): bool => str_contains($m, 'This would leave nobody who may administer'));
    expect(($this->person)('admin')->role->code)->toBe('administrator');
    ($this->add)(['sign_in' => 'second', 'role' => 'administrator'])->assertCreated();
    $this->putJson("/api/office/people/{$admin->id}", ['name' => 'W', 'role' => 'reader', 'groups' => []])->assertOk();
    $this->as('admin')->getJson('/api/office/people')->assertForbidden();
});

it('changes one’s own password, and ends the sessions elsewhere', function () {
    $this->as('reader')
        ->putJson('/api/me/password', ['current' => 'wrong', 'password' => 'seven quiet locks'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.current', 'This is not the password you have now.');
    $this->putJson('/api/me/password', ['current' => 'tarnwick', 'password' => 'reader'])->assertUnprocessable();
    $elsewhere = DB::table('sessions')->insertGetId([
        'key_hash' => 'elsewhere', 'user_id' => ($this->person)('reader')->id, 'begun_at' => now(), 'seen_at' => now(), 'address' => '', 'browser' => '', 'stays' => true,
    ]);
    $this->putJson('/api/me/password', ['current' => 'tarnwick', 'password' => 'seven quiet locks'])->assertNoContent();
    $this->getJson('/api/desk')->assertOk();
    expect(DB::table('sessions')->where('id', $elsewhere)->exists())->toBeFalse()->and(($this->acts)())->toContain('password_set');
    auth()->logout();
    // A session that began with the password before; its page is there, and asks to sign in.
    $this->withSession([
        'password_hash_web' => 'an older hash',
        Illuminate\Support\Facades\Auth::guard('web')->getName() => ($this->person)('reader')->id,
    ])
        ->get('/find')
        ->assertOk();
    $this->withSession([
        'password_hash_web' => 'an older hash',
        Illuminate\Support\Facades\Auth::guard('web')->getName() => ($this->person)('reader')->id,
    ])
        ->getJson('/api/desk')
        ->assertUnauthorized();
});

it('writes down no name that nobody has, for it may be a password', function () {
    $this->postJson('/api/session', ['sign_in' => 'my secret pass phrase', 'password' => 'x'])->assertUnprocessable();
    expect((string) DB::table('history')->where('act', 'sign_in_failed')->value('detail'))->toContain('unknown')->not->toContain('secret');
});

it('keeps the office to administrators', function (string $method, string $path) {
    $this->json($method, "/api/office/{$path}")->assertUnauthorized();
    foreach (['reader', 'clerk', 'librarian', 'manager'] as $who) {
        $this->as($who)
            ->json($method, "/api/office/{$path}")
            ->assertForbidden();
    }
})->with([
    ['GET', 'people'],
    ['POST', 'people'],
    ['PUT', 'people/1'],
    ['POST', 'people/1/code'],
    ['POST', 'people/1/out'],
    ['POST', 'people/1/back'],
]);

it('lets administrators do nothing with documents that their groups do not let them', function () {
    $minute = $this->filed(
        'The board met.',
        'm.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    $this->as('admin')
        ->getJson("/api/documents/{$minute}")
        ->assertNotFound();
    $this->getJson('/api/intake')->assertForbidden();
    $this->getJson('/api/design/draft')->assertForbidden();
    $this->getJson('/api/removed')->assertForbidden();
});

it('does the same in the shell', function () {
    $run = function (string $act, array $more = []): array {
        $code = Artisan::call('brenvic:people', ['act' => $act, ...$more]);

        return [$code, Artisan::output()];
    };
    [$code, $said] = $run('add', [
        'sign_in' => 'w.ashby',
        '--name' => 'Wren Ashby',
        '--role' => 'clerk',
        '--group' => ['Everyone', 'New office'],
    ]);
    expect($code)
        ->toBe(0)
        ->and($said)
        ->toMatch('/One-time code, good for seven days: [a-z0-9-]{19}/')
        ->and(Group::query()->where('name', 'New office')->exists())
        ->toBeTrue();
    expect($run('add', ['sign_in' => 'w.ashby'])[0])
        ->toBe(1)
        ->and($run('add', ['sign_in' => 'Bad Name'])[0])
        ->toBe(1)
        ->and($run('nothing')[0])
        ->toBe(1)
        ->and($run('code', ['sign_in' => 'none'])[1])
        ->toContain('nobody with the sign-in name “none”');
    expect($run('change', ['sign_in' => 'w.ashby', '--role' => 'manager'])[0])
        ->toBe(0)
        ->and(($this->person)('w.ashby')->role->code)
        ->toBe('manager')
        ->and(($this->person)('w.ashby')->groupNames())
        ->toBe(['Everyone', 'New office']);
    expect($run('out', ['sign_in' => 'w.ashby'])[1])
        ->toContain('Out of use.')
        ->and($run('list')[1])
        ->toContain('(out of use)')
        ->and($run('back', ['sign_in' => 'w.ashby'])[0])
        ->toBe(0);
    $list = json_decode($run('list', ['--json' => true])[1], true);
    expect(array_column($list, 'role', 'sign_in'))->toMatchArray(['w.ashby' => 'manager', 'admin' => 'administrator']);
});

it('begins an empty office with one administrator', function () {
    foreach (['group_user', 'users'] as $table) {
        DB::table($table)->delete();
    }
    Artisan::call('brenvic:demo', ['--empty' => true]);
    preg_match('/one-time code ([a-z0-9-]{19})/', Artisan::output(), $m);
    expect(User::query()->pluck('sign_in')->all())->toBe(['admin']);
    $this->postJson('/api/session/code', ['sign_in' => 'admin', 'code' => $m[1], 'password' => 'seven quiet locks'])
        ->assertOk()
        ->assertJsonPath('user.may.administer', true);
    Artisan::call('brenvic:demo', ['--empty' => true]);
    expect(User::query()->count())->toBe(1);
});
