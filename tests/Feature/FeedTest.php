<?php

declare(strict_types=1);

use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;

/** @return array{int, string, string} the search, and the paths of its two feeds */
function feedOf(string $words, string $by = 'reader', array $groups = []): array
{
    $saved = test()->as($by)->postJson('/api/searches', ['name' => "All of {$words}", 'search' => ['words' => $words, 'criteria' => []], 'groups' => $groups])->assertSuccessful()->json('searches');
    $id = (int) collect($saved)->firstWhere('name', "All of {$words}")['id'];
    $made = test()->postJson("/api/searches/{$id}/feed")->assertCreated()->json();

    return [$id, (string) parse_url($made['atom'], PHP_URL_PATH), (string) parse_url($made['json'], PHP_URL_PATH)];
}

/** As a program without a session. */
function fetched(string $path, array $headers = []): TestResponse
{
    app('auth')->forgetGuards();

    return test()->withHeaders($headers)->get($path);
}

it('tells feed readers what a search finds, the latest filed first, in both forms', function () {
    $first = stoppageOf('2001', [], 'The sluice & sill <leak>.');
    $second = stoppageOf('2002', ['subject' => ['NAV.02.3']], 'The sluice is shut.');
    stoppageOf('2003', [], 'The lock is open.');
    DB::table('documents')->where('ref', $first)->update(['filed_at' => '2026-01-01 09:00:00']);
    app(App\Index\Indexer::class)->update([(int) DB::table('documents')->where('ref', $first)->value('id')]);
    [, $atom, $json] = feedOf('sluice');
    $answer = fetched($atom)->assertOk()->assertHeader('Content-Type', 'application/atom+xml; charset=utf-8');
    $document = new DOMDocument;
    expect($document->loadXML((string) $answer->getContent()))->toBeTrue();
    $path = new DOMXPath($document);
    $path->registerNamespace('a', 'http://www.w3.org/2005/Atom');
    // What RFC 4287 wants of a feed and of each entry: id, title, updated, and somebody who wrote it.
    foreach (['a:id', 'a:title', 'a:updated', 'a:author/a:name', 'a:link[@rel="self"]'] as $needed) {
        expect($path->query("/a:feed/{$needed}")->length)->toBe(1, $needed);
    }
    $entries = iterator_to_array($path->query('/a:feed/a:entry'));
    expect(count($entries))->toBe(2);
    foreach ($entries as $entry) {
        foreach (['a:id', 'a:title', 'a:updated', 'a:link'] as $needed) {
            expect($path->query($needed, $entry)->length)->toBe(1, $needed);
        }
        expect(DateTimeImmutable::createFromFormat(DATE_ATOM, str_replace('Z', '+00:00', $path->evaluate('string(a:updated)', $entry))))->not->toBeFalse();
    }
    expect($path->evaluate('string(a:link/@href)', $entries[0]))->toEndWith("/documents/{$second}")
        ->and($path->evaluate('string(a:category[2]/@term)', $entries[0]))->toBe('NAV.02.3 Dredging')
        ->and($path->evaluate('string(a:link/@href)', $entries[1]))->toEndWith("/documents/{$first}");
    $feed = fetched($json)->assertOk()->assertHeader('Content-Type', 'application/feed+json; charset=utf-8')->json();
    expect($feed['version'])->toBe('https://jsonfeed.org/version/1.1')
        ->and(array_column($feed['items'], 'id'))->toBe(array_map(static fn (DOMElement $entry): string => $path->evaluate('string(a:id)', $entry), $entries));
});

it('is not sent again while nothing is new', function () {
    stoppageOf('2001', [], 'The sluice leaks.');
    [, $atom] = feedOf('sluice');
    $tag = (string) fetched($atom)->headers->get('ETag');
    fetched($atom, ['If-None-Match' => $tag])->assertStatus(304)->assertContent('');
    stoppageOf('2002', [], 'The sluice is shut.');
    fetched($atom, ['If-None-Match' => $tag])->assertOk();
});

it('shows what its person sees now, and nothing once they see the search no more', function () {
    $this->filed('The byelaw of the sluice', 'b.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    stoppageOf('2001', [], 'The sluice leaks.');
    [$id, , $json] = feedOf('sluice', 'librarian', ['Everyone']);
    expect(fetched($json)->json('items'))->toHaveCount(2);
    // Somebody whom it is shared with has a feed of their own, with their own sight.
    $theirs = (string) parse_url($this->as('reader')->postJson("/api/searches/{$id}/feed")->assertCreated()->json('json'), PHP_URL_PATH);
    expect(fetched($theirs)->json('items'))->toHaveCount(1);
    DB::table('saved_searches')->where('id', $id)->update(['groups' => '[]']);
    fetched($theirs)->assertNotFound();
    expect(fetched($json)->json('items'))->toHaveCount(2);
    User::query()->where('sign_in', 'librarian')->update(['out_of_use_at' => now()]);
    fetched($json)->assertNotFound();
});

it('has one address at a time, which can be stopped, and is guessed by nobody', function () {
    stoppageOf('2001', [], 'The sluice leaks.');
    [$id, $atom] = feedOf('sluice');
    expect(DB::table('feeds')->value('token_hash'))->toHaveLength(64)->and($atom)->not->toContain((string) DB::table('feeds')->value('token_hash'));
    $next = (string) parse_url($this->as('reader')->postJson("/api/searches/{$id}/feed")->json('atom'), PHP_URL_PATH);
    fetched($atom)->assertNotFound();
    fetched($next)->assertOk();
    expect($this->as('reader')->getJson('/api/searches')->json('searches.0.has_feed'))->toBeTrue();
    $this->as('clerk')->postJson("/api/searches/{$id}/feed")->assertNotFound();
    expect($this->as('reader')->deleteJson("/api/searches/{$id}/feed")->assertOk()->json('searches.0.has_feed'))->toBeFalse();
    fetched($next)->assertNotFound();
    fetched('/feeds/'.str_repeat('a', 40).'.atom')->assertNotFound();
});
