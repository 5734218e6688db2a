<?php

declare(strict_types=1);

use App\Models\Document;
use Illuminate\Support\Facades\DB;

const INSPECTED = ['code' => 'inspected', 'name' => 'Inspected on', 'field' => 'document_date', 'method' => 'position', 'anchor' => 'Inspected on'];

function noticeOf(string $text, array $values = []): string
{
    return test()->filed($text, 'notice.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], ...$values]);
}

/** A rule that is tried on what a criterion finds. */
function triedRule(array $rule, string $criterion = '', string $by = 'librarian'): Illuminate\Testing\TestResponse
{
    return test()->as($by)->postJson('/api/design/readings/trial', ['rule' => $rule, 'criterion' => $criterion]);
}

function rulesPublished(): void
{
    test()->publish('Rules')->assertCreated();
    foreach (Illuminate\Support\Facades\Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
}

/** @return array<string, list<string>> the references by outcome, of those that are listed */
function outcomesOf(array $trial): array
{
    return array_filter(collect($trial['outcomes'])->mapWithKeys(static fn (array $o): array => [$o['outcome'] => array_column($o['documents'], 'ref')])->all());
}

it('tries a rule on the documents of a search and holds it against what people gave, each number a list', function () {
    $agrees = noticeOf('Filed 1 Jan 2020. Inspected on: 14 March 2024 by Fenn.', ['document_date' => ['2024-03-14']]);
    $within = noticeOf('Inspected on 14 March 2024.', ['document_date' => ['2024']]);
    $differs = noticeOf('Inspected on 15 March 2024.', ['document_date' => ['2024-03-14']]);
    $nothing = noticeOf('Nothing was inspected.', ['document_date' => ['2024-03-14']]);
    $trial = triedRule(INSPECTED)->assertOk()->json();
    expect($trial['documents'])->toBe(4)->and($trial['tried'])->toBe(4)->and($trial['hits'])->toBe(3)->and($trial['is_everywhere'])->toBeFalse();
    expect(outcomesOf($trial))->toBe(['agrees' => [$agrees, $within], 'differs' => [$differs], 'nothing' => [$nothing]]);
    $listed = collect($trial['outcomes'])->firstWhere('outcome', 'differs')['documents'][0];
    expect($listed['given'])->toBe(['14 Mar 2024'])->and($listed['found'][0]['value'])->toBe('15 Mar 2024')->and($listed['found'][0]['pieces'])->toBe([
        ['Inspected on ', false], ['15 March 2024', true], ['.', false],
    ]);
    foreach ($trial['outcomes'] as $outcome) {
        if ($outcome['cql'] !== null) {
            expect($this->search(['words' => '', 'criteria' => [['cql' => $outcome['cql']]]], 'librarian')->json('total'))->toBe($outcome['count']);
        }
    }
    expect(triedRule(INSPECTED, 'text = fenn')->assertOk()->json('documents'))->toBe(1)->and(triedRule([...INSPECTED, 'types' => ['contract']])->json('documents'))->toBe(0);
});

it('says what is wrong with a rule before it is tried', function (array $rule, string $property) {
    triedRule([...INSPECTED, ...$rule])->assertUnprocessable()->assertJsonStructure(['error' => ['fields' => [$property]]]);
})->with([
    [['field' => 'none'], 'field'],
    [['anchor' => ''], 'anchor'],
    [['method' => 'pattern', 'pattern' => '(?<!x)y'], 'pattern'],
    [['method' => 'words'], 'words'],
    [['types' => ['none']], 'types'],
]);

it('is tried by those who design, on what they may see and whole', function () {
    noticeOf('Inspected on 14 March 2024.', ['document_date' => ['2024-03-14']]);
    foreach (['reader', 'clerk', 'manager', 'admin'] as $who) {
        triedRule(INSPECTED, '', $who)->assertForbidden();
    }
    triedRule(INSPECTED, 'nothing = 1')->assertUnprocessable();
    triedRule([...INSPECTED, 'field' => 'holder'])->assertUnprocessable()->assertSee('sensitive');
});

it('stops a pattern that takes for ever, and says where a rule finds everything', function () {
    noticeOf(str_repeat('x', 60).'z y', ['document_date' => ['2024']]);
    $rule = [...INSPECTED, 'method' => 'pattern', 'field' => 'document_date'];
    expect(triedRule([...$rule, 'pattern' => '(x+x+)+y'])->assertOk()->json('fault'))->toContain('(x+x+)+y');
    noticeOf(implode(' ', array_map(static fn (int $n): string => 'Seen on '.($n % 28 + 1)." March {$n}.", range(1900, 2020))), ['document_date' => ['2024']]);
    expect(triedRule(['code' => 'days', 'name' => 'Days', 'field' => 'document_date'])->json('is_everywhere'))->toBeTrue();
});

it('proposes what rules find in a document that waits, with where it stands, and stores nothing', function () {
    $this->as('librarian')->postJson('/api/design/readings', INSPECTED)->assertSuccessful();
    $ref = arrived('Seen 1 Jan 2020. Inspected on: 14 March 2024 by Fenn.', 'inspection.txt');
    $ask = fn (string $by = 'clerk', string $type = '') => $this->as($by)->getJson("/api/documents/{$ref}/proposals".($type === '' ? '' : "?type={$type}"));
    // What is drafted proposes nothing yet.
    expect($ask()->assertOk()->json('proposals'))->toBe([]);
    rulesPublished();
    $proposals = $ask()->assertOk()->json('proposals');
    expect($proposals)->toHaveCount(1)->and($proposals[0]['field'])->toBe('document_date')->and($proposals[0]['by'])->toBe('Inspected on')->and(
        $proposals[0]['places'],
    )->toBe([['value' => '2024-03-14', 'label' => '14 Mar 2024', 'page' => 1, 'pieces' => [['Inspected on: ', false], ['14 March 2024', true], [' by Fenn.', false]]]]);
    expect(DB::table('document_values')->where('document_id', Document::query()->where('ref', $ref)->value('id'))->exists())->toBeFalse();
    // It is nobody else's.
    $ask('librarian')->assertNotFound();
    $ask('reader')->assertForbidden();
});

it('reads only documents of the types that a rule names', function () {
    $this->as('librarian')->postJson('/api/design/readings', [...INSPECTED, 'types' => ['lock_inspection']])->assertSuccessful();
    rulesPublished();
    $ref = arrived('Inspected on: 14 March 2024.', 'inspection.txt');
    $count = fn (string $type): int => count($this->as('clerk')->getJson("/api/documents/{$ref}/proposals?type={$type}")->assertOk()->json('proposals'));
    expect($count('stoppage_notice'))->toBe(0)->and($count('lock_inspection'))->toBe(1);
});

it('says how often what a rule proposed was filed unchanged, of what one may see', function () {
    $this->as('librarian')->postJson('/api/design/readings', [...INSPECTED, 'types' => ['stoppage_notice']])->assertSuccessful();
    rulesPublished();
    $proposed = function (string $text, string $by = 'clerk'): array {
        $ref = arrived($text, 'n.txt');
        $all = collect($this->as($by)->getJson("/api/documents/{$ref}/proposals?type=stoppage_notice")->assertOk()->json('proposals'));

        return [$ref, $all->firstWhere('field', 'document_date')];
    };
    $file = fn (string $ref, string $date) => $this->as('clerk')
        ->postJson('/api/intake/file', ['documents' => [$ref], 'type' => 'stoppage_notice', 'values' => ['waterway' => ['tarn-sea'], 'document_date' => [$date]]])
        ->assertOk()
        ->json('act');
    [$first, $of] = $proposed('Inspected on 1 May 2024.');
    expect([$of['kept'], $of['made']])->toBe([0, 0]);
    $file($first, '2024-05-01');
    [$second, $of] = $proposed('Inspected on 2 May 2024.');
    expect([$of['kept'], $of['made']])->toBe([1, 1]);
    // What was corrected is no merit of the rule.
    $act = $file($second, '2024-06-02');
    [$third, $of] = $proposed('Inspected on 3 May 2024.');
    expect([$of['kept'], $of['made']])->toBe([1, 2]);
    $this->postJson("/api/document-acts/{$act}/undo")->assertSuccessful();
    [, $of] = $proposed('Inspected on 4 May 2024.');
    expect([$of['kept'], $of['made']])->toBe([1, 1]);
    // Of what is taken out of sight nothing is told.
    $this->as('manager')->postJson('/api/removed', ['documents' => [$first], 'reason' => 'A double'])->assertOk();
    [, $of] = $proposed('Inspected on 5 May 2024.');
    expect([$of['kept'], $of['made']])->toBe([0, 0]);
    // A rule that is changed begins anew.
    $file($third, '2024-05-03');
    $this->as('librarian')->putJson('/api/design/readings/inspected', [...INSPECTED, 'types' => ['stoppage_notice'], 'anchor' => 'inspected', 'lock_version' => 1])->assertSuccessful();
    rulesPublished();
    [, $of] = $proposed('Inspected: 6 May 2024.');
    expect([$of['kept'], $of['made']])->toBe([0, 0]);
});

/** A field that no sheet has, and a rule that counts what texts mention of it. */
function mentionsRead(array $rule = []): void
{
    $list = ['code' => 'plants', 'name' => 'Plants', 'terms' => [['code' => 'willow', 'label' => 'Willow', 'synonyms' => ['osier']], ['code' => 'reed', 'label' => 'Reed']]];
    test()->as('librarian')->postJson('/api/design/vocabularies', $list)->assertCreated();
    test()->postJson('/api/design/fields', ['code' => 'plants', 'label' => 'Plants mentioned', 'kind' => 'choice', 'vocabulary' => 'plants', 'multiple' => true, 'faceted' => true])->assertCreated();
    $given = ['code' => 'plants', 'name' => 'Plants', 'field' => 'plants', 'for' => 'mention', 'method' => 'words', 'vocabulary' => 'plants', ...$rule];
    test()->postJson('/api/design/readings', $given)->assertCreated();
    rulesPublished();
}

/** @return array<string, int> what is counted of the plants that texts mention */
function plantsCounted(string $by = 'reader'): array
{
    $facet = collect(test()->search(['words' => '', 'criteria' => []], $by)->json('facets'))->firstWhere('field', 'plants');

    return collect($facet['values'] ?? [])->pluck('count', 'label')->all();
}

it('counts what texts mention, of what was there before and of what comes', function () {
    $old = noticeOf('The osier and the reed are cut.', ['document_date' => ['2024']]);
    mentionsRead();
    expect(plantsCounted())->toBe(['Reed' => 1, 'Willow' => 1]);
    $new = noticeOf('A willow fell.', ['document_date' => ['2024']]);
    expect(plantsCounted())->toBe(['Willow' => 2, 'Reed' => 1]);
    $found = $this->search(['words' => 'plants = willow', 'criteria' => [], 'columns' => ['plants']], 'reader');
    expect(array_column($found->json('rows'), 'ref'))->toBe([$new, $old])->and($found->json('rows.1.cells.plants'))->toBe('Willow, Reed');
    // It is on no sheet: changing the values of a document leaves it as it is.
    $record = $this->as('clerk')->getJson("/api/documents/{$new}")->json();
    expect(array_column($record['values']['plants'], 'label'))->toBe(['Willow']);
    $this->putJson("/api/documents/{$new}", ['type' => 'stoppage_notice', 'values' => ['waterway' => ['tarn-summit'], 'document_date' => ['2024']], 'lock_version' => $record['lock_version']])->assertOk();
    expect(plantsCounted())->toBe(['Willow' => 2, 'Reed' => 1]);
});

it('follows the rule, and is taken back with it', function () {
    noticeOf('The osier and the reed are cut.', ['document_date' => ['2024']]);
    $before = (int) DB::table('design_versions')->max('id');
    mentionsRead();
    $rule = ['code' => 'plants', 'name' => 'Plants', 'field' => 'plants', 'for' => 'mention', 'method' => 'words', 'words' => [['value' => 'Reed', 'spellings' => []]]];
    $this->as('librarian')->putJson('/api/design/readings/plants', [...$rule, 'vocabulary' => null, 'lock_version' => 1])->assertSuccessful();
    rulesPublished();
    expect(plantsCounted())->toBe(['Reed' => 1]);
    $this->as('librarian')->deleteJson('/api/design/readings/plants')->assertNoContent();
    rulesPublished();
    expect(plantsCounted())->toBe([])->and(DB::table('mentioned_values')->count())->toBe(0)->and($before)->toBeGreaterThanOrEqual(0);
});

it('mentions nothing that is removed from a document', function () {
    $ref = noticeOf('The osier and the reed are cut.', ['document_date' => ['2024']]);
    mentionsRead();
    $text = 'The osier and the reed are cut.';
    $mark = ['page' => 1, 'start' => (int) strpos($text, 'osier'), 'length' => 5];
    $this->as('librarian')->postJson("/api/documents/{$ref}/redactions", ['version' => 1, 'reason' => 'personal', 'marks' => [$mark]])->assertSuccessful();
    expect(plantsCounted())->toBe(['Reed' => 1])->and(plantsCounted('librarian'))->toBe(['Reed' => 1]);
});

it('is not known to those who know of none of the types that are read', function () {
    mentionsRead(['types' => ['minute']]);
    $fields = fn (string $who): array => array_column($this->as($who)->getJson('/api/design')->json('fields'), 'code');
    expect($fields('librarian'))->toContain('plants')->and($fields('reader'))->not->toContain('plants');
    $this->search(['words' => '', 'criteria' => [['cql' => 'plants = willow']]], 'reader')->assertUnprocessable()->assertSee('There is no field');
});

it('needs a field of its own, that takes several values', function (array $rule, string $says) {
    $this->as('librarian')->postJson('/api/design/readings', ['code' => 'x', 'name' => 'X', 'for' => 'mention', ...$rule])->assertUnprocessable()->assertSee($says);
})->with([[['field' => 'document_date'], 'cannot be on any sheet'], [['field' => 'plants_seen'], 'plants_seen']]);

it('tries what texts mention on all documents, as something new', function () {
    noticeOf('The osier and the reed are cut.', ['document_date' => ['2024']]);
    mentionsRead();
    $rule = ['code' => 'plants', 'name' => 'Plants', 'field' => 'plants', 'for' => 'mention', 'method' => 'words', 'vocabulary' => 'plants'];
    $trial = triedRule($rule)->assertOk()->json();
    expect($trial['documents'])->toBe(1)->and($trial['hits'])->toBe(2)->and(array_keys(outcomesOf($trial)))->toBe(['new']);
});

it('puts on the sheet what the librarian lets it, where the field is empty, and notes where it stands', function () {
    $rule = [...INSPECTED, 'for' => 'stored', 'types' => ['stoppage_notice']];
    $this->as('librarian')->postJson('/api/design/readings', $rule)->assertSuccessful();
    $this->postJson('/api/design/readings', ['code' => 'plate', 'name' => 'Plate', 'field' => 'structure', 'for' => 'stored', 'method' => 'kind', 'types' => ['lock_inspection']])->assertSuccessful();
    rulesPublished();
    $of = function (array $values): Document {
        $ref = arrived('Inspected on: 14 March 2024 at LK-0414-7.', 'n.txt');
        $document = Document::query()->where('ref', $ref)->firstOrFail();
        app(App\Intake\Filing::class)->put($document, App\Models\DocumentType::query()->where('code', 'stoppage_notice')->firstOrFail(), $values);
        app(App\Intake\StoredReadings::class)->fill($document->refresh());

        return $document;
    };
    $values = static fn (Document $document): array => App\Catalog\OwnValues::of([$document->id])[$document->id] ?? [];
    $empty = $of([]);
    expect($values($empty))->toBe(['document_date' => ['2024-03-14']]);
    // What somebody gave stays.
    expect($values($of(['document_date' => ['2020']])))->toBe(['document_date' => ['2020']]);
    // It says so to those whose sheet gets its type later.
    $sheet = collect($this->as('clerk')->getJson("/api/documents/{$empty->ref}/proposals?type=stoppage_notice")->assertOk()->json('proposals'));
    expect($sheet->firstWhere('field', 'document_date')['is_stored'])->toBeTrue();
    // What is filed is not touched.
    $filed = Document::query()->where('ref', noticeOf('Inspected on 1 May 2024.', ['document_date' => ['2024']]))->firstOrFail();
    DB::table('document_values')->where('document_id', $filed->id)->where('value', '2024')->delete();
    app(App\Intake\StoredReadings::class)->fill($filed);
    expect($values($filed))->toBe(['waterway' => ['tarn-sea']]);
});
