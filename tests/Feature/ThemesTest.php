<?php

declare(strict_types=1);

/** Notices of three kinds of trouble, some of each. */
function troublesFiled(int $each = 6): void
{
    foreach (
        [
            'The dredger takes silt from the channel by barge, load %d.',
            'A willow fell and its canopy lies over the towpath, tree %d.',
            'The swing bridge stays open while its hinge is greased, day %d.',
        ] as $text
    ) {
        for ($i = 1; $i <= $each; $i++) {
            test()->filed(sprintf($text, $i), "notice {$i}.txt", 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
        }
    }
}

it('parts a result into themes, each a line of the ledger that finds as many as it says', function () {
    troublesFiled(12);
    $found = $this->as('reader')->postJson('/api/search/themes', ['words' => '', 'criteria' => []])->assertOk()->json();
    expect($found['documents'])->toBe(36)->and($found['without_text'])->toBe(0)->and(count($found['themes']))->toBe(3)->and($found['others'])->toBe(0);
    foreach ($found['themes'] as $theme) {
        expect($this->search(['words' => '', 'criteria' => [['cql' => $theme['cql']]]], 'reader')->json('total'))->toBe($theme['count'])->toBe(12);
    }
    $words = $this->postJson('/api/search/themes', ['words' => '', 'criteria' => [['cql' => 'text any "dredger hinge"']]])->assertOk()->json('words');
    foreach ($words as $word) {
        expect($this->search(['words' => '', 'criteria' => [['cql' => $word['cql']]]], 'reader')->json('total'))->toBe($word['all']);
    }
    expect(array_column($words, 'word'))->toContain('silt', 'bridge');
});

it('counts near copies once in themes, where the search does', function () {
    troublesFiled();
    $asked = ['words' => '', 'criteria' => [], 'once' => true];
    $total = $this->search($asked, 'reader')->json('total');
    expect($this->postJson('/api/search/themes', $asked)->assertOk()->json('documents'))->toBe($total)->toBeLessThan(18);
});

it('says what is wrong with a search whose themes are asked for', function () {
    $this->as('reader')->postJson('/api/search/themes', ['words' => '', 'criteria' => [['cql' => 'nothing = 1']]])->assertUnprocessable();
});
