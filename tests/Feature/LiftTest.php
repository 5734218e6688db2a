<?php

declare(strict_types=1);

use App\Capture\ReadText;
use App\Capture\TextReading;
use App\Models\Document;
use Illuminate\Support\Facades\Queue;

it('tells what the pages of a document say for a field, and reads words that were pointed at', function () {
    $ref = $this->upload("Notice of 14th March 2024.\nThe Sea lock pound is shut until 2 April 2024; see also 14/03/2024.", 'notice.txt')->json('ref');
    app(TextReading::class)->read(Document::query()->where('ref', $ref)->firstOrFail()->id);
    $places = $this->as('clerk')->getJson("/api/documents/{$ref}/places?field=document_date")->assertOk()->json('places');
    expect($places)->toBe([
        ['page' => 1, 'text' => '14th March 2024', 'value' => '2024-03-14', 'label' => '14 Mar 2024', 'boxes' => []],
        ['page' => 1, 'text' => '2 April 2024', 'value' => '2024-04-02', 'label' => '2 Apr 2024', 'boxes' => []],
    ]);
    expect($this->getJson("/api/documents/{$ref}/places?field=waterway")->json('places.0.label'))->toBe('Sea lock pound');
    $this->postJson('/api/intake/lift', ['field' => 'document_date', 'text' => "of 14th\nMarch 2024."])
        ->assertOk()
        ->assertExactJson(['value' => '2024-03-14', 'label' => '14 Mar 2024', 'fault' => '']);
    $fault = $this->postJson('/api/intake/lift', ['field' => 'document_date', 'text' => 'gate'])->assertOk()->json();
    expect($fault['value'])->toBeNull()->and($fault['fault'])->toContain('is not a date');
    $this->postJson('/api/intake/lift', ['field' => 'nowhere', 'text' => 'x'])->assertNotFound();
    $this->postJson('/api/intake/lift', ['field' => 'document_date', 'text' => ''])->assertUnprocessable();
});

it('says nothing of pages to whom they are not shown', function () {
    $ref = $this->upload('Notice of 14 March 2024.', 'notice.txt')->json('ref');
    app(TextReading::class)->read(Document::query()->where('ref', $ref)->firstOrFail()->id);
    // Another’s waiting document is not there, and who may not file lifts nothing.
    $this->as('librarian')->getJson("/api/documents/{$ref}/places?field=document_date")->assertNotFound();
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->getJson("/api/documents/{$ref}/places?field=document_date")->assertForbidden();
        $this->as($who)->postJson('/api/intake/lift', ['field' => 'document_date', 'text' => '2024'])->assertForbidden();
    }
});

it('says where on the page the words stand, so that they can be marked there', function () {
    $ref = arrived(stackOf([scanOf('Inspected on 14th March 2024 by the keeper of the sluice.')]), 'scan.pdf');
    $place = $this->getJson("/api/documents/{$ref}/places?field=document_date")->assertOk()->json('places.0');
    $page = $this->getJson("/api/documents/{$ref}/pages/1")->assertOk()->json();
    expect($place['value'])->toBe('2024-03-14')->and($place['boxes'])->toHaveCount(3);
    foreach ($place['boxes'] as [$left, $top, $right, $bottom]) {
        expect($left)->toBeGreaterThan(0)->toBeLessThan($right)
            ->and($right)->toBeLessThan($page['width'])
            ->and($bottom - $top)->toBeGreaterThan(5)->toBeLessThan(30)
            ->and($bottom)->toBeLessThan($page['height'] / 4);
    }
});

it('keeps where a value was lifted from, and tells it who may see the value as it is', function () {
    $ref = arrived(stackOf([scanOf('Inspected on 14th March 2024 by the keeper of the sluice.')]), 'scan.pdf');
    $lifted = ['document_date' => [['value' => '2024-03-14', 'page' => 1, 'text' => '14th March 2024']], 'waterway' => [
        ['value' => 'tarn-sea', 'page' => 1, 'text' => 'words that are not there'],
    ]];
    $sheet = ['type' => 'stoppage_notice', 'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['14 Mar 2024']]];
    $this->putJson("/api/intake/sheets/{$ref}", [...$sheet, 'lock_version' => 1, 'lifted' => $lifted])->assertOk();
    $told = $this->getJson("/api/documents/{$ref}/lifted")->assertOk()->json('lifted');
    expect(array_keys($told))->toBe(['document_date'])
        ->and($told['document_date'][0])->toMatchArray(['value' => '2024-03-14', 'page' => 1])
        ->and($told['document_date'][0]['boxes'])->toHaveCount(3);
    $this->as('reader')->getJson("/api/documents/{$ref}/lifted")->assertNotFound();
    $this->as('clerk')->postJson('/api/intake/file', [...$sheet, 'documents' => [$ref], 'lifted' => $lifted])->assertOk();
    expect($this->as('reader')->getJson("/api/documents/{$ref}/lifted")->assertOk()->json('lifted.document_date.0.page'))->toBe(1);
    // Another value is not lifted from there.
    $lock = $this->as('librarian')->getJson("/api/documents/{$ref}")->json('lock_version');
    $other = ['type' => 'stoppage_notice', 'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2023']]];
    $this->putJson("/api/documents/{$ref}", [...$other, 'lock_version' => $lock])->assertOk();
    expect($this->getJson("/api/documents/{$ref}/lifted")->json('lifted'))->toBe([]);
});

it('reads a part of a page there and then, of what one sees', function () {
    Queue::fake([ReadText::class]);
    $ref = arrived(stackOf([scanOf('Inspected on 14th March 2024 by the keeper of the sluice.')]), 'scan.pdf');
    $area = ['page' => 1, 'left' => 0.08, 'top' => 0.09, 'right' => 0.95, 'bottom' => 0.125];
    expect($this->postJson("/api/documents/{$ref}/area", $area)->assertOk()->json('text'))->toContain('14th March 2024')->not->toContain('sluice');
    expect($this->postJson("/api/documents/{$ref}/area", [...$area, 'top' => 0.7, 'bottom' => 0.8])->assertOk()->json('text'))->toBe('');
    $this->postJson("/api/documents/{$ref}/area", [...$area, 'page' => 9])->assertUnprocessable();
    $this->postJson("/api/documents/{$ref}/area", [...$area, 'left' => 2])->assertUnprocessable();
    $this->as('librarian')->postJson("/api/documents/{$ref}/area", $area)->assertNotFound();
    $this->as('reader')->postJson("/api/documents/{$ref}/area", $area)->assertForbidden();
});
