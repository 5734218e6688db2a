<?php

declare(strict_types=1);

use App\Access\Change;
use App\Access\Changing;
use App\Access\Rights;
use App\Models\Document;
use App\Models\Group;
use App\Models\Right;
use App\Models\Roles;
use App\Models\User;
use App\People\Groups;
use App\People\Reasons;
use App\People\RoleChanges;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** A role with just these rights, given to the clerk. */
function clerkWith(Right ...$rights): User
{
    $role = app(RoleChanges::class)->add(null, 'Just these '.bin2hex(random_bytes(3)), array_values($rights));
    $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    $clerk->update(['role' => $role->code]);

    // As in the next request.
    app()->forgetScopedInstances();

    return $clerk->refresh();
}

function noticeFiled(): string
{
    return test()->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
}

it('makes roles of the office’s own, and says in the history what they were', function () {
    $this->as('admin')
        ->postJson('/api/office/roles', ['name' => 'Harbour desk', 'rights' => ['file', 'read']])
        ->assertCreated()
        ->assertJsonFragment(['code' => 'harbour_desk', 'name' => 'Harbour desk', 'rights' => ['read', 'file']]);
    $this->postJson('/api/office/roles', ['name' => 'harbour DESK', 'rights' => []])->assertUnprocessable();
    $this->postJson('/api/office/roles', ['name' => '', 'rights' => []])->assertUnprocessable();
    $this->postJson('/api/office/roles', ['name' => 'X', 'rights' => ['fly']])->assertUnprocessable();
    $this->putJson('/api/office/roles/harbour_desk', ['name' => 'Harbour desk', 'rights' => ['read']])->assertOk();
    $clerk = User::query()->where('sign_in', 'clerk')->value('id');
    $this->putJson("/api/office/people/{$clerk}", ['name' => 'Fenwick Dale', 'mail' => null, 'role' => 'harbour_desk', 'groups' => ['Everyone']])->assertOk();
    $this->deleteJson('/api/office/roles/harbour_desk')->assertUnprocessable()->assertSee('Fenwick Dale');
    expect(DB::table('history')->orderByDesc('id')->limit(3)->pluck('act')->all())->toBe(['person_changed', 'role_changed', 'role_added']);
    // It is in force in the next request.
    $this->as('clerk')->getJson('/api/session')->assertJsonPath('user.may.file', false)->assertJsonPath('user.role', 'Harbour desk');
    $this->getJson('/api/intake')->assertForbidden();
    $this->deleteJson('/api/office/roles/reader')->assertForbidden();
});

it('leaves nobody without who administers, or without who designs', function () {
    $this->as('admin');
    foreach (['administrator', 'librarian'] as $role) {
        $was = app(Roles::class)->of($role);
        $this->putJson("/api/office/roles/{$role}", ['name' => $was->name, 'rights' => ['read']])
            ->assertUnprocessable()
            ->assertSee('nobody who may');
        expect(app(Roles::class)->of($role)->rights)->toBe($was->rights);
    }
    $this->deleteJson('/api/office/roles/administrator')->assertUnprocessable();
    $this->deleteJson('/api/office/roles/nothing')->assertUnprocessable();
});

it('shows nothing to who may not read', function () {
    $ref = noticeFiled();
    clerkWith(Right::Download, Right::File, Right::Change);
    $this->as('clerk')->getJson("/api/documents/{$ref}")->assertNotFound();
    expect($this->search(['words' => 'sluice'], 'clerk')->json('total'))->toBe(0);
});

it('tells filing and changing apart', function () {
    $ref = noticeFiled();
    $file = fn () => $this->as('clerk')->post(
        '/api/intake',
        ['library' => 'waterways', 'file' => UploadedFile::fake()->createWithContent('a.txt', 'The weir is low.')],
        ['Accept' => 'application/json'],
    );
    $change = fn () => $this->as('clerk')->putJson("/api/documents/{$ref}", [
        'type' => 'stoppage_notice',
        'lock_version' => Document::query()->where('ref', $ref)->value('lock_version'),
        'values' => ['waterway' => ['tarn-sea'], 'document_date' => ['2023']],
    ]);
    clerkWith(Right::Read, Right::File);
    $file()->assertCreated();
    $change()->assertForbidden();
    $this->postJson("/api/documents/{$ref}/check-out", ['note' => ''])->assertForbidden();
    clerkWith(Right::Read, Right::Change);
    $file()->assertForbidden();
    $change()->assertOk();
    $this->postJson("/api/documents/{$ref}/check-out", ['note' => ''])->assertOk();
});

it('lets nobody take documents away who may only read them', function () {
    $ref = noticeFiled();
    clerkWith(Right::Read);
    $this->as('clerk')->getJson("/api/documents/{$ref}")->assertOk();
    $this->get("/api/documents/{$ref}/file")->assertOk();
    $this->getJson("/api/documents/{$ref}/file?download=1")->assertForbidden();
    $this->postJson('/api/search/export', ['words' => 'sluice', 'format' => 'csv'])->assertForbidden();
    $this->postJson('/api/documents/mail', ['documents' => [$ref]])->assertForbidden();
    $this->postJson("/api/documents/{$ref}/links", ['most_uses' => 1, 'days' => 1])->assertForbidden();
    $list = $this->postJson('/api/lists', ['name' => 'Mine', 'documents' => [$ref]])->json('id');
    $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'csv'])->assertForbidden();
});

it('puts groups into groups, and takes them out again', function () {
    $ref = $this->filed('The minute of the board.', 'm.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $board = Group::query()->where('name', 'Board office')->firstOrFail();
    $this->as('clerk')->getJson("/api/documents/{$ref}")->assertNotFound();
    $this->as('admin')
        ->putJson("/api/office/groups/{$board->id}", ['groups' => ['Records office']])
        ->assertOk()
        ->assertJsonFragment(['id' => $board->id, 'name' => 'Board office', 'groups' => ['Records office']]);
    $this->as('clerk')->getJson("/api/documents/{$ref}")->assertOk();
    $this->getJson('/api/session')->assertJsonPath('user.groups', ['Board office', 'Everyone', 'Records office']);
    $records = Group::query()->where('name', 'Records office')->firstOrFail();
    $this->as('admin')->putJson("/api/office/groups/{$records->id}", ['groups' => ['Board office']])->assertUnprocessable()->assertSee('in itself');
    $this->putJson("/api/office/groups/{$board->id}", ['groups' => ['Board office']])->assertUnprocessable();
    $this->putJson("/api/office/groups/{$board->id}", ['groups' => []])->assertOk();
    $this->as('clerk')->getJson("/api/documents/{$ref}")->assertNotFound();
});

it('writes down which groups are made and taken away, and who is in them no more', function () {
    $this->as('librarian')->postJson('/api/design/people/groups', ['name' => 'Divers'])->assertOk();
    $divers = Group::query()->where('name', 'Divers')->firstOrFail();
    $harbour = Group::query()->where('name', 'Harbour office')->firstOrFail();
    Groups::putGroups(null, $harbour, ['Divers']);
    Groups::put(User::query()->where('sign_in', 'reader')->firstOrFail(), ['Divers']);
    expect(User::query()->where('sign_in', 'reader')->firstOrFail()->groupNames())->toBe(['Divers', 'Harbour office']);
    $this->as('librarian')->deleteJson("/api/design/people/groups/{$divers->id}")->assertOk();
    expect(User::query()->where('sign_in', 'reader')->firstOrFail()->groupNames())->toBe([])
        ->and(DB::table('history')->whereIn('act', ['group_added', 'group_removed'])->pluck('act')->all())->toBe(['group_added', 'group_removed']);
});

it('knows who is in which group as walking every way does', function () {
    seeded(2001);
    for ($round = 0; $round < 12; $round++) {
        DB::table('group_group')->delete();
        DB::table('group_user')->delete();
        $groups = collect(range(1, 7))->map(static fn (int $n) => Group::query()->firstOrCreate(['name' => "G{$n}"]));
        $edges = [];
        foreach ($groups as $i => $of) {
            foreach ($groups as $j => $in) {
                // Only from one to a later one, so that none is in itself.
                if ($i < $j && mt_rand(0, 3) === 0) {
                    $edges[$in->id][] = $of->id;
                    DB::table('group_group')->insert(['group_id' => $in->id, 'member_id' => $of->id]);
                }
            }
        }
        foreach (User::query()->get() as $user) {
            Groups::put($user, $groups->filter(static fn (): bool => mt_rand(0, 4) === 0)->pluck('name')->values()->all());
        }
        $in = static function (int $group, array $direct) use (&$in, $edges): bool {
            return in_array($group, $direct, true) || array_filter($edges[$group] ?? [], static fn (int $of): bool => $in($of, $direct)) !== [];
        };
        foreach (User::query()->get() as $user) {
            $direct = $user->groups()->pluck('groups.id')->map(intval(...))->all();
            foreach ($groups as $group) {
                $is = $in($group->id, $direct);
                expect(in_array($group->name, $user->groupNames(), true))->toBe($is)->and(Groups::way($user, $group->name) !== [])->toBe($is);
            }
        }
    }
});

it('says why somebody may read and change a document as it is decided', function () {
    $refs = [
        noticeFiled(),
        $this->filed('The minute of the board.', 'm.txt', 'minute', ['document_date' => ['2024'], 'confidentiality' => ['confidential']], 'board', 'librarian'),
        $this->filed('The minute of another day.', 'l.txt', 'minute', ['document_date' => ['2023'], 'confidentiality' => ['open']], 'board', 'librarian'),
    ];
    $this->as('librarian')->postJson("/api/documents/{$refs[0]}/check-out", ['note' => 'Measured again'])->assertOk();
    User::query()->where('sign_in', 'reader')->firstOrFail()->update(['out_of_use_at' => now()]);
    foreach (User::query()->get() as $person) {
        foreach (Document::query()->whereIn('ref', $refs)->get() as $document) {
            $said = app(Reasons::class)->of($person, $document);
            $reads = $person->out_of_use_at === null && app(Rights::class)->sees($person, $document);
            expect($said['reads'])->toBe($reads, "{$person->sign_in} {$document->ref}");
            expect($said['changes'])->toBe($reads && app(Changing::class)->hindrance($person, $document, Change::Values) === null);
            expect($said['reading'])->not->toBe([]);
        }
    }
    $this->as('librarian')
        ->getJson("/api/documents/{$refs[1]}/why/clerk")
        ->assertOk()
        ->assertJsonPath('reads', false)
        ->assertSee('they are in none of these');
    $this->getJson("/api/documents/{$refs[0]}/why/nobody")->assertNotFound();
    $this->as('clerk')->getJson("/api/documents/{$refs[0]}/why/reader")->assertForbidden();
    // Whoever may ask why asks of what they see.
    $this->as('admin')->getJson("/api/documents/{$refs[1]}/why/clerk")->assertNotFound();
});

it('takes people in from a table, as a whole or not at all', function () {
    $take = fn (string $csv, bool $take = true) => $this->as('admin')->post(
        '/api/office/people/table',
        ['file' => UploadedFile::fake()->createWithContent('people.csv', $csv), 'take' => $take ? '1' : '0'],
        ['Accept' => 'application/json'],
    );
    $csv = (string) $this->as('admin')->get('/api/office/people.csv')->assertOk()->getContent();
    expect($csv)->toContain("clerk,Fenwick Dale,,clerk,Everyone; Records office,\r\n");
    $take($csv)->assertOk()->assertJsonPath('table.same', 5)->assertJsonPath('table.added', []);
    $more = "\u{FEFF}sign_in,name,mail,role,groups\r\nw.ashby,\"Ashby, Wren\",w@tarnwick.example,Intake clerk,Everyone\r\nclerk,Fenwick Dale,,reader,Everyone\r\n";
    $take($more, false)->assertOk()->assertJsonPath('table.added', ['w.ashby'])->assertJsonPath('table.changed', ['clerk']);
    expect(User::query()->count())->toBe(5);
    $codes = $take($more)->assertOk()->json('table.codes');
    expect(array_keys($codes))->toBe(['w.ashby'])
        ->and(User::query()->where('sign_in', 'w.ashby')->value('name'))->toBe('Ashby, Wren')
        ->and(User::query()->where('sign_in', 'clerk')->firstOrFail()->role->code)->toBe('reader')
        ->and(DB::table('outbox')->where('to', 'w@tarnwick.example')->count())->toBe(1);
    foreach ([
        "name\r\nX\r\n" => 'no column “sign_in”',
        "sign_in,age\r\nx,3\r\n" => 'no use for the column “age”',
        "sign_in,role\r\nx,emperor\r\n" => 'no role “emperor”',
        "sign_in,groups\r\nx,Nobody\r\n" => 'no group “Nobody”',
        "sign_in\r\nX Y\r\n" => 'not a sign-in name',
        "sign_in\r\nnew\r\nnew\r\n" => 'there twice',
        "sign_in,name\r\nnew\r\n" => 'has 1 cells',
        "sign_in,mail\r\nnew,nowhere\r\n" => 'not an e-mail address',
        "sign_in,name\r\nnew,\xFF\r\n" => 'not in UTF-8',
    ] as $wrong => $says) {
        expect($take($wrong, false)->assertOk()->json('table.faults.0'))->toContain($says);
        $take($wrong)->assertUnprocessable()->assertSee('Nothing was imported');
    }
    // The last who administers cannot be taken away by a table either, and what stands before that line is not taken.
    $take("sign_in,role\r\nnewer,reader\r\nadmin,reader\r\n")->assertUnprocessable()->assertSee('nobody who may administer');
    expect(User::query()->whereIn('sign_in', ['new', 'newer'])->exists())->toBeFalse();
});

it('keeps what is new in the office to administrators', function (string $method, string $path) {
    foreach (['reader', 'clerk', 'librarian', 'manager'] as $who) {
        $this->as($who)->json($method, "/api/office/{$path}", [])->assertForbidden();
    }
})->with([
    ['GET', 'people.csv'], ['POST', 'people/table'], ['PUT', 'rules'], ['POST', 'roles'], ['PUT', 'roles/clerk'], ['DELETE', 'roles/clerk'],
    ['PUT', 'groups/1'], ['DELETE', 'people/1/sessions'], ['DELETE', 'people/1/factor'],
]);

it('takes people in and out, and puts groups into groups, in the shell', function () {
    $run = function (string $act, array $more = []): array {
        $code = Artisan::call('brenvic:people', ['act' => $act, ...$more]);

        return [$code, Artisan::output()];
    };
    [$code, $csv] = $run('export');
    expect($code)->toBe(0)->and($csv)->toStartWith("sign_in,name,mail,role,groups,out_of_use\r\n");
    $file = sys_get_temp_dir().'/brenvic-people-'.getmypid().'.csv';
    file_put_contents($file, "sign_in,name,role\nw.ashby,Wren Ashby,clerk\n");
    expect($run('import', ['sign_in' => $file, '--try' => true])[1])->toContain('1 added');
    expect(User::query()->where('sign_in', 'w.ashby')->exists())->toBeFalse();
    expect($run('import', ['sign_in' => $file])[1])->toMatch('/w\.ashby [a-z2-9]{4}-/');
    expect($run('import', ['sign_in' => '/nowhere.csv'])[0])->toBe(1);
    expect($run('groups', ['sign_in' => 'Board office', '--group' => ['Records office']])[1])->toContain('In Board office: Records office.');
    expect($run('groups', ['sign_in' => 'No such'])[0])->toBe(1);
    unlink($file);
});
