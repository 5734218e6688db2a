<?php

declare(strict_types=1);

use App\Copies\PrintTexts;
use App\Copies\TextPrints;
use App\Models\Document;
use Brenvic\Core\Copies\KeyBucket;
use Illuminate\Support\Facades\DB;

const WEND = 'The sill of the upper gate at Wend sluice leaks where the second plank was renewed in March. The keeper has been told to '.
    'draw the paddles at night, and a diver is asked for as soon as the level allows it. Until then boats pass at their own risk.';

/** A notice that is filed. */
function letterFiled(string $text, string $name = 'letter.txt', string $library = 'waterways', string $by = 'clerk'): string
{
    return test()->filed($text, $name, 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']], $library, $by);
}

/** @return array<string, array{how: string, share: float|int, may_version: bool}> by reference, what a person is told of */
function copiesTold(string $ref, string $by = 'clerk'): array
{
    return collect(test()->as($by)->getJson("/api/documents/{$ref}/copies")->assertOk()->json('copies'))
        ->mapWithKeys(static fn (array $c): array => [$c['ref'] => array_intersect_key($c, ['how' => 1, 'share' => 1, 'may_version' => 1])])
        ->all();
}

/** @return list<int> what is kept of the keys of a document's text */
function keysKept(int $document): array
{
    return DB::table('near_texts')
        ->pluck('entries')
        ->flatMap(static fn (string $stored): array => KeyBucket::entries($stored))
        ->filter(static fn (array $entry): bool => $entry[0] === $document)
        ->pluck(1)
        ->all();
}

it('names what is filed of the same file, the same text and nearly the same text, before another is filed', function () {
    $same = letterFiled(WEND);
    $set = letterFiled(str_replace('. ', ".\n\n", mb_strtoupper(WEND)), 'loud.txt');
    $near = letterFiled(str_replace('second plank', 'third plank', WEND), 'near.txt');
    letterFiled('The weir is low, the reeds are cut, and nothing else is to be said of the upper pound this month by anybody.', 'other.txt');
    $ref = arrived(WEND, 'again.txt');
    $copies = copiesTold($ref);
    expect(array_keys($copies))->toBe([$same, $set, $near])
        ->and($copies[$same])->toBe(['how' => 'file', 'share' => 1, 'may_version' => false])
        ->and($copies[$set])->toBe(['how' => 'text', 'share' => 1, 'may_version' => true])
        ->and($copies[$near]['how'])->toBe('near')
        ->and($copies[$near]['share'])->toBeGreaterThan(0.7)->toBeLessThan(1)
        // Those who only read are told of copies too, and may make no version.
        ->and(copiesTold($near, 'reader')[$set]['may_version'])->toBeFalse();
});

it('tells nobody of what they do not see', function () {
    $ref = letterFiled(WEND);
    $waiting = arrived(WEND, 'mine.txt');
    expect(array_keys(copiesTold($ref)))->toBe([$waiting])->and(copiesTold($ref, 'librarian'))->toBe([]);
    $this->as('librarian')->getJson("/api/documents/{$waiting}/copies")->assertNotFound();
    $this->getJson("/api/documents/{$waiting}/copies/{$ref}")->assertNotFound();
    $this->getJson("/api/documents/{$ref}/copies/{$waiting}")->assertNotFound();
    $this->getJson("/api/documents/{$ref}/copies/nothing")->assertNotFound();
});

it('tells two documents apart word by word', function () {
    $ref = letterFiled(WEND);
    $near = arrived(str_replace('second plank', 'third plank', WEND), 'near.txt');
    $told = $this->as('clerk')->getJson("/api/documents/{$ref}/copies/{$near}")->assertOk()->json();
    $changed = array_values(array_filter($told['pieces'], static fn (array $piece): bool => $piece[0] !== 'same'));
    expect(array_map(static fn (array $piece): array => [$piece[0], trim($piece[1])], $changed))
        ->toBe([['taken_out', 'third'], ['put_in', 'second']])
        ->and($told['title'])
        ->toBe('near');
});

it('files what waits as the next version of what it is nearly alike', function () {
    $ref = letterFiled(WEND);
    $waiting = arrived(str_replace('second plank', 'third plank', WEND), 'corrected.txt');
    $this->as('clerk')
        ->postJson('/api/intake/versions', ['document' => $waiting, 'of' => $ref, 'note' => 'Corrected'])
        ->assertOk()
        ->assertJsonPath('version', 2)
        ->assertJsonPath('total', 0);
    $versions = $this->getJson("/api/documents/{$ref}/versions")->assertOk()->json('versions');
    expect($versions[0])
        ->file_name->toBe('corrected.txt')
        ->note->toBe('Corrected')
        ->how->toBe('arrived and filed as a version')
        ->and($this->search(['words' => '"third plank"'], 'clerk')->json('total'))->toBe(1);
    // What it said before is no longer what it is found by.
    expect(array_keys(copiesTold(arrived(str_replace('second plank', 'third plank', WEND), 'twice.txt'))))->toBe([$ref]);
});

it('makes no version where that may not be', function () {
    $ref = letterFiled(WEND);
    $waiting = arrived(WEND, 'same.txt');
    $version = fn (string $by, string $document, string $of) => $this->as($by)->postJson('/api/intake/versions', ['document' => $document, 'of' => $of]);
    $version('clerk', $waiting, $ref)->assertUnprocessable()->assertSee('byte for byte');
    $version('librarian', $waiting, $ref)->assertNotFound();
    $version('clerk', $ref, $ref)->assertNotFound();
    $version('reader', $waiting, $ref)->assertForbidden();
    expect(Document::query()->where('ref', $waiting)->value('state'))->toBe('waiting');
});

it('notes by and by what was there before, and forgets what is destroyed', function () {
    $first = letterFiled(WEND);
    $second = letterFiled(str_replace('second plank', 'third plank', WEND), 'near.txt');
    DB::table('near_texts')->delete();
    DB::table('documents')->update(['text_print' => null, 'updated_at' => now()->subDay()]);
    expect(copiesTold($first))->toBe([]);
    $from = PrintTexts::unfinished(now());
    expect($from)->toHaveCount(1);
    app()->call([new PrintTexts($from[0]), 'handle']);
    expect(PrintTexts::unfinished(now()->addDay()))->toBe([])->and(array_keys(copiesTold($first)))->toBe([$second]);
    $id = (int) Document::query()->where('ref', $second)->value('id');
    expect(count(keysKept($id)))->toBe(4);
    $this->as('manager')->postJson('/api/removed', ['documents' => [$second], 'reason' => 'A double'])->assertOk();
    expect(copiesTold($first))->toBe([]);
    $this->as('manager')->postJson('/api/removed/destroy', ['documents' => [$second], 'reason' => 'A double'])->assertSuccessful();
    expect(keysKept($id))->toBe([]);
});

/** A long report, in which one word in a hundred is another one in each. */
function reportOf(int $of): string
{
    $words = array_map(static fn (int $n): string => 'reach'.($n * 7919 % 1_000), range(1, 400));
    foreach ([50, 250] as $place) {
        $words[$place] = "draft{$of}";
    }

    return implode(' ', $words);
}

it('counts near copies once, in the total, the margins and the rows, and lists them below the latest', function () {
    $drafts = array_map(static fn (int $n): string => letterFiled(reportOf($n), "draft {$n}.txt"), [1, 2, 3]);
    $other = letterFiled(WEND, 'wend.txt');
    $asked = ['words' => '', 'criteria' => [['cql' => 'type == "stoppage_notice"']], 'columns' => ['document_date']];
    $each = $this->search($asked, 'clerk');
    expect($each->json('total'))->toBe(4)->and($each->json('with_copies'))->toBeNull();
    $once = $this->search([...$asked, 'once' => true], 'clerk');
    $rows = collect($once->json('rows'))->mapWithKeys(static fn (array $row): array => [$row['ref'] => $row['copies'] ?? 0])->all();
    expect($once->json('total'))
        ->toBe(2)
        ->and($once->json('with_copies'))
        ->toBe(4)
        ->and($rows)
        ->toBe([$other => 0, $drafts[2] => 2]);
    $library = collect($once->json('facets'))->firstWhere('field', 'library');
    expect(array_sum(array_column($library['values'], 'count')))->toBe(2);
    $below = $this->postJson("/api/search/attached/{$drafts[2]}", [...$asked, 'once' => true])->assertOk()->json('rows');
    expect(array_column($below, 'ref'))->toBe([$drafts[0], $drafts[1]])->and(array_column($below, 'is_copy'))->toBe([true, true]);
    $groups = $this->postJson('/api/search/groups', [...$asked, 'once' => true, 'level' => 'library'])->assertOk()->json('groups');
    expect($groups[0]['count'])->toBe(2);
});

it('lets no document stand for another that its reader may not see', function () {
    $open = letterFiled(reportOf(1), 'open.txt');
    // Filed later, and seen by fewer.
    $minute = ['document_date' => ['2024'], 'confidentiality' => ['confidential']];
    $closed = $this->filed(reportOf(2), 'closed.txt', 'minute', $minute, 'board', 'librarian');
    $all = ['words' => '', 'criteria' => [['cql' => 'text any "draft1 draft2"']], 'once' => true];
    $by = fn (string $who): array => array_column($this->search($all, $who)->assertOk()->json('rows'), 'ref');
    $seen = array_column($this->search([...$all, 'once' => false], 'reader')->json('rows'), 'ref');
    expect($by('librarian'))->toBe([$closed])->and($seen)->toBe([$open])->and($by('reader'))->toBe([$open]);
});

it('leaves a family with a document that says something else, or is destroyed', function () {
    [$first, $second] = [letterFiled(reportOf(1)), letterFiled(reportOf(2))];
    $total = fn (): int => $this->search(['words' => '', 'criteria' => [['cql' => 'text any "draft1 draft2 heron"']], 'once' => true], 'clerk')->json('total');
    expect($total())->toBe(1);
    $id = (int) Document::query()->where('ref', $first)->value('id');
    DB::table('pages')->where('document_id', $id)->update(['text' => 'The heron stands below the weir and waits, and nothing else is to be told of it today.']);
    TextPrints::note($id);
    expect($total())->toBe(2)->and(DB::table('near_families')->count())->toBe(0);
    TextPrints::forget($id);
    expect($second)->not->toBe($first);
});

it('keeps with a search that near copies are counted once', function () {
    letterFiled(reportOf(1));
    letterFiled(reportOf(2));
    $search = ['words' => '', 'any' => false, 'view' => '', 'where' => [], 'criteria' => [['cql' => 'text any "draft1 draft2"', 'negated' => false, 'on' => true]], 'once' => true];
    $kept = $this->as('clerk')->postJson('/api/searches', ['name' => 'Drafts', 'search' => $search])->assertSuccessful()->json('searches.0');
    expect($kept['search']['once'])->toBeTrue()->and($kept['total'])->toBe(1);
});

it('compares no text that somebody does not see whole, for them alone', function () {
    $drafts = array_map(static fn (int $n): string => letterFiled(reportOf($n), "draft {$n}.txt"), [1, 2, 3]);
    $mark = ['page' => 1, 'start' => 0, 'length' => 8];
    $this->as('librarian')->postJson("/api/documents/{$drafts[2]}/redactions", ['version' => 1, 'reason' => 'personal', 'marks' => [$mark]])->assertOk();
    foreach (['librarian' => 1, 'reader' => 2, 'clerk' => 1] as $who => $total) {
        foreach ([1, 2] as $_) {
            $found = $this->search(['words' => '', 'criteria' => [], 'once' => true], $who);
            $library = collect($found->json('facets'))->firstWhere('field', 'library');
            expect($found->json('total'))->toBe($total, $who)->and(array_sum(array_column($library['values'], 'count')))->toBe($total, $who);
        }
    }
});
