<?php

declare(strict_types=1);

use App\History\Act;
use App\Models\Right;
use App\Models\User;
use App\People\Tokens;
use App\Served\Asking;
use App\Served\OaiServer;
use Illuminate\Support\Facades\DB;

/** @return list<string> what SRU finds, piece by piece */
function bySru(string $cql, array $headers): array
{
    $refs = [];
    for ($start = 1; $start !== null;) {
        $xml = (string) test()->withHeaders($headers)->get('/sru?'.http_build_query(['query' => $cql, 'startRecord' => (string) $start, 'maximumRecords' => '7', 'recordSchema' => 'brenvic']))
            ->assertOk()->getContent();
        if (str_contains($xml, '<diagnostics>')) {
            return ['refused'];
        }
        preg_match_all('/<record [^>]*\bref="([^"]+)"/', $xml, $found);
        array_push($refs, ...$found[1]);
        $start = preg_match('/<nextRecordPosition>(\d+)</', $xml, $m) === 1 ? (int) $m[1] : null;
    }
    sort($refs);

    return $refs;
}

/** @return list<string> */
function byOai(array $headers): array
{
    preg_match_all(
        '/<header><identifier>'.preg_quote(OaiServer::prefix(), '/').'([^<]+)</',
        (string) test()->withHeaders(['Accept-Encoding' => '', ...$headers])->get('/oai?verb=ListIdentifiers&metadataPrefix=mods')->assertOk()->getContent(),
        $found,
    );
    sort($found[1]);

    return $found[1];
}

/** @return list<string> */
function byInterface(string $cql, string $who): array
{
    $answer = test()->search(['criteria' => [['cql' => $cql]], 'limit' => 500], $who);
    if ($answer->status() === 422) {
        return ['refused'];
    }
    $refs = array_column($answer->assertOk()->json('rows'), 'ref');
    sort($refs);

    return $refs;
}

it('gives by no way what does not come by the others, whoever asks', function () {
    mt_srand(31);
    $words = ['sluice', 'lock', 'silt', 'gate', 'weir', 'sill'];
    foreach (range(1, 40) as $i) {
        $text = implode(' ', array_map(static fn (): string => $words[mt_rand(0, 5)], range(1, 4)));
        match (mt_rand(0, 2)) {
            0 => stoppageOf((string) (1950 + $i), [], $text),
            1 => $this->filed($text, "w{$i}.txt", 'byelaw', ['document_date' => ['1999'], 'confidentiality' => [mt_rand(0, 1) === 0 ? 'confidential' : 'internal']], 'board', 'librarian'),
            default => $this->filed($text, "p{$i}.txt", 'photograph', ['place' => ['Weir']], 'voices'),
        };
    }
    $queries = ['cql.allRecords = 1', 'library = *', 'sluice', 'lock not silt', 'text any "gate weir"', 'type == byelaw', 'document_date > 1980', 'library == board or sill'];
    $seen = [];
    foreach (User::query()->orderBy('id')->get() as $person) {
        if (! $person->may(Right::Read)) {
            continue;
        }
        $this->flushHeaders();
        $asInterface = array_map(static fn (string $cql): array => byInterface($cql, $person->sign_in), $queries);
        $token = ['Authorization' => 'Bearer '.Tokens::make($person, 'x', [Right::Read], 5)];
        foreach ($queries as $i => $cql) {
            expect(bySru($cql, $token))->toBe($asInterface[$i], "{$person->sign_in}: {$cql}");
        }
        expect(byOai($token))->toBe($asInterface[0], $person->sign_in);
        $seen[$person->sign_in] = count($asInterface[0]);
    }
    expect(max($seen))->toBe(40)->and(min($seen))->toBeLessThan(40);
    // Anybody is served as somebody who is in that group alone.
    $this->flushHeaders();
    Asking::serve('Everyone');
    $only = byInterface($queries[0], 'reader');
    expect(bySru($queries[0], []))->toBe($only)->and(byOai([]))->toBe($only);
});

it('lets only who administers say whom programs ask as, and notes it', function () {
    $this->as('admin')->getJson('/api/office/served')->assertOk()->assertJson(['group' => null, 'sru' => 'http://localhost:8080/sru']);
    $this->putJson('/api/office/served', ['group' => 'Nobody'])->assertUnprocessable();
    $this->putJson('/api/office/served', ['group' => 'Everyone'])->assertOk()->assertJsonPath('group', 'Everyone');
    expect(DB::table('history')->orderByDesc('id')->value('act'))->toBe(Act::ServedTo->value)->and(Asking::group())->toBe('Everyone');
    $this->putJson('/api/office/served', ['group' => null])->assertOk();
    expect(Asking::group())->toBeNull();
    foreach (['librarian', 'manager', 'clerk', 'reader'] as $other) {
        $this->as($other)->getJson('/api/office/served')->assertForbidden();
        $this->putJson('/api/office/served', ['group' => 'Everyone'])->assertForbidden();
    }
});

it('lists the tokens of everybody to those who administer, who revoke any of them', function () {
    $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    $secret = Tokens::make($clerk, 'catalogue', [Right::Read], 10);
    $told = $this->as('admin')->getJson('/api/office/served')->assertOk()->assertDontSee($secret)->json('tokens');
    expect($told)->toHaveCount(1)
        ->and($told[0])->toMatchArray(['name' => 'catalogue', 'rights' => ['read'], 'libraries' => null])
        ->and($told[0]['person'])->toBe(['sign_in' => 'clerk', 'name' => $clerk->name]);
    foreach (['librarian', 'manager', 'clerk', 'reader'] as $other) {
        $this->as($other)->deleteJson("/api/office/tokens/{$told[0]['id']}")->assertForbidden();
    }
    // Under one's own name only one's own are revoked.
    $this->as('admin')->deleteJson("/api/me/tokens/{$told[0]['id']}")->assertNotFound();
    expect(Tokens::user($secret)?->sign_in)->toBe('clerk');
    $this->deleteJson("/api/office/tokens/{$told[0]['id']}")->assertOk()->assertJsonPath('tokens', []);
    $this->deleteJson("/api/office/tokens/{$told[0]['id']}")->assertNotFound();
    $noted = DB::table('history')->orderByDesc('id')->first();
    expect(Tokens::user($secret))->toBeNull()
        ->and($noted->act)->toBe(Act::TokenRevoked->value)
        ->and($noted->detail)->toContain('catalogue')
        ->and((int) $noted->user_id)->not->toBe($clerk->id);
});

it('tells who administers of no library that is kept from them', function () {
    $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    Tokens::make($clerk, 'both', [Right::Read], 10, ['waterways', 'board']);
    $told = fn (): array => $this->as('admin')->getJson('/api/office/served')->assertOk()->json();
    expect(DB::table('libraries')->where('code', 'board')->exists())->toBeTrue();
    expect($told()['tokens'][0]['libraries'])->toBe(['waterways'])
        ->and(array_column($told()['libraries'], 'code'))->not->toContain('board')->toContain('waterways')
        ->and(Tokens::of($clerk)[0]['libraries'])->toBe(['waterways', 'board']);
});

it('finds who is in which group around another', function () {
    $groups = ['A', 'B', 'C', 'D'];
    $made = array_map(static fn (string $name) => App\Models\Group::query()->create(['name' => $name]), $groups);
    // D is in C, C in B, B in A, and A in B: a circle ends.
    foreach ([[2, 3], [1, 2], [0, 1], [1, 0]] as [$outer, $inner]) {
        DB::table('group_group')->insert(['group_id' => $made[$outer]->id, 'member_id' => $made[$inner]->id]);
    }
    expect($made[3]->around())->toBe(['A', 'B', 'C'])->and($made[0]->around())->toBe(['B']);
});

it('asks another Brenvic by SRU as it asks any other server', function () {
    stoppageOf('2001', [], 'The sluice leaks.');
    stoppageOf('2002', [], 'The lock leaks.');
    Asking::serve('Everyone');
    $server = app(App\Served\SruServer::class);
    $reader = User::query()->where('sign_in', 'reader')->firstOrFail();
    Illuminate\Support\Facades\Http::fake(static function (Illuminate\Http\Client\Request $request) use ($server, $reader) {
        parse_str((string) parse_url($request->url(), PHP_URL_QUERY), $given);

        return Illuminate\Support\Facades\Http::response($server->answer($reader, $given, 'http://survey-exchange.example/sru'), 200, ['Content-Type' => 'application/xml']);
    });
    $answer = $this->as('reader')->postJson('/api/remote/survey_exchange/search', ['words' => 'sluice', 'criteria' => [['cql' => 'type == stoppage_notice']], 'columns' => ['document_date']])->assertOk();
    expect($answer->json('total'))->toBe(1)->and($answer->json('rows.0.title'))->toContain('2001')->and($answer->json('left_out'))->toBe([]);
});
