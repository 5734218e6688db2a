<?php

declare(strict_types=1);

use App\Capture\TextReading;
use App\Models\Document;

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
