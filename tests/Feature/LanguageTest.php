<?php

declare(strict_types=1);

use App\Copies\PrintTexts;
use App\Models\Document;
use Illuminate\Support\Facades\DB;

const FRENCH = 'Les écluses du canal ont été réparées au mois de mars, et les bateaux passent de nouveau sans attendre. Le garde en est averti.';

function frenchFiled(): string
{
    return test()->filed(FRENCH, 'avis.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
}

it('tells the language of a text, counts it, and finds words by the stems of that language', function () {
    $ref = frenchFiled();
    $this->filed('The lock was repaired in March, and boats pass again without having to wait for the keeper.', 'notice.txt', 'stoppage_notice', [
        'waterway' => ['tarn-sea'],
        'document_date' => ['2024'],
    ]);
    $found = $this->search(['words' => 'écluse', 'reach' => 'same_stem', 'columns' => ['text_language'], 'criteria' => []]);
    expect($found->json('total'))
        ->toBe(1)
        ->and($found->json('rows.0.ref'))
        ->toBe($ref)
        ->and($found->json('rows.0.cells.text_language'))
        ->toBe('French')
        ->and($found->json('rows.0.snippet'))
        ->toContain(['écluses', true]);
    $facet = collect($this->search(['words' => '', 'criteria' => []])->json('facets'))->firstWhere('field', 'text_language');
    expect(collect($facet['values'])->pluck('count', 'label')->all())->toBe(['English' => 1, 'French' => 1]);
    expect($this->as('reader')->getJson("/api/documents/{$ref}")->json('language'))->toBe(['code' => 'fr', 'told' => 'fr']);
});

it('takes the language that a person says, and the one of the text again', function () {
    $ref = frenchFiled();
    $say = fn (?string $code, string $by = 'clerk') => $this->as($by)->putJson("/api/documents/{$ref}/language", ['language' => $code]);
    $say('xx')->assertUnprocessable();
    $say('it', 'reader')->assertForbidden();
    expect($say('it')->assertOk()->json('language'))->toBe(['code' => 'it', 'told' => 'fr']);
    expect($this->search(['words' => '', 'criteria' => [['cql' => 'text_language == it']]])->json('total'))->toBe(1);
    $changed = collect($this->getJson("/api/documents/{$ref}/history")->json('history'))->firstWhere('act', 'changed');
    expect($changed['changes'])->toBe([['field' => 'Language of the text', 'before' => 'French', 'after' => 'Italian']]);
    expect($say(null)->assertOk()->json('language.code'))->toBe('fr');
    expect($this->search(['words' => '', 'criteria' => [['cql' => 'text_language == it']]])->json('total'))->toBe(0);
});

it('tells by and by the language of what was there before, in the index too', function () {
    frenchFiled();
    DB::table('documents')->update(['text_print' => null, 'told_language' => null, 'updated_at' => now()->subDay()]);
    app()->call([new PrintTexts((int) Document::query()->min('id')), 'handle']);
    expect($this->search(['words' => '', 'criteria' => [['cql' => 'text_language == fr']]])->json('total'))->toBe(1);
});
