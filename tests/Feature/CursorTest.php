<?php

declare(strict_types=1);

use App\Find\Cursor;
use App\Models\Document;

/** @return list<string> */
function walked(array $search, int $limit, ?Closure $between = null, string $who = 'librarian'): array
{
    $refs = [];
    for ($cursor = Cursor::START; $cursor !== null;) {
        $answer = test()->search([...$search, 'cursor' => $cursor, 'limit' => $limit, 'rows_only' => true], $who)->assertOk();
        array_push($refs, ...array_column($answer->json('rows'), 'ref'));
        $cursor = $answer->json('cursor');
        $between === null || $between();
    }

    return $refs;
}

it('gives all that is found, each once, the newest first, whatever the pieces', function () {
    $refs = array_map(static fn (int $i): string => stoppageOf((string) (1950 + $i), [], $i % 3 === 0 ? 'weir' : 'sluice'), range(1, 23));
    foreach ([1, 4, 7, 23, 100] as $limit) {
        expect(walked([], $limit))->toBe(array_reverse($refs), "pieces of {$limit}");
    }
    // By words too, where the order would be by relevance.
    $weirs = array_values(array_filter($refs, static fn (string $ref, int $i): bool => ($i + 1) % 3 === 0, ARRAY_FILTER_USE_BOTH));
    expect(walked(['words' => 'weir'], 2))->toBe(array_reverse($weirs))->and(walked(['words' => 'nowhere'], 2))->toBe([]);
});

it('gives nothing twice and leaves nothing out while documents come and go', function () {
    $refs = array_map(static fn (int $i): string => stoppageOf((string) (1950 + $i)), range(1, 20));
    $gone = [];
    $turn = 0;
    $walked = walked([], 3, function () use ($refs, &$gone, &$turn): void {
        stoppageOf((string) (1900 + $turn));
        $ref = $refs[($turn * 7) % 20];
        if (! in_array($ref, $gone, true)) {
            $this->as('manager')->postJson('/api/removed', ['documents' => [$ref], 'reason' => 'x'])->assertSuccessful();
            $gone[] = $ref;
        }
        $turn++;
    });
    expect($walked)->toBe(array_values(array_unique($walked)))
        ->and(array_diff($refs, $gone, $walked))->toBe([])
        ->and(count($gone))->toBeGreaterThan(3);
});

it('refuses what was never given out, and another order with it', function () {
    stoppageOf('2001');
    foreach (['', 'x', base64_encode('below:-1'), base64_encode('below:1 or 1'), base64_encode('below:9999999999999999')] as $cursor) {
        $this->search(['cursor' => $cursor])->assertUnprocessable();
    }
    $this->search(['cursor' => 'start', 'sort' => [['field' => 'title']]])->assertUnprocessable()->assertJsonPath('error.fields.cursor', 'With a cursor the newest come first: leave out “sort”.');
    $this->search(['cursor' => 'start', 'offset' => 5])->assertUnprocessable();
    expect($this->search([])->assertOk()->json())->not->toHaveKey('cursor');
    // A number tells nothing of a document that one does not see.
    $hidden = $this->filed('Closed', 'closed.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $id = Document::query()->where('ref', $hidden)->value('id');
    $behind = rtrim(base64_encode('below:'.($id + 1)), '=');
    expect($this->search(['cursor' => $behind], 'reader')->assertOk()->json('rows.*.ref'))->not->toContain($hidden);
});
