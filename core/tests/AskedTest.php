<?php

declare(strict_types=1);

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Search\Asking\AskedFor;
use Brenvic\Core\Search\Asking\Criteria;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\Relation;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Asking\WordCriterion;
use Brenvic\Core\Search\Asking\WordRelation;

function vesselSchema(): SearchSchema
{
    return new SearchSchema([new FieldDefinition('vessel', 'Vessel', new TextKind)]);
}

it('makes criteria of words, and opens them in a form again', function (string $place, WordRelation $relation, array $values, string $cql) {
    $node = WordCriterion::of($place, $relation, $values);
    expect(Printer::node($node))->toBe($cql);
    $form = AskedFor::from($node, vesselSchema());
    expect([$form?->of, $form?->relation, $form?->values])
        ->toBe([$place, $relation->value, $values])
        ->and(Parser::parse($cql)->root)
        ->toEqual($node);
})->with([
    ['anywhere', WordRelation::All, ['gate'], 'gate'],
    ['title', WordRelation::All, ['gate sill'], 'title all "gate sill"'],
    ['text', WordRelation::Any, ['gate sill'], 'text any "gate sill"'],
    ['comment', WordRelation::Phrase, ['lower gate'], 'comment = "lower gate"'],
    ['earlier', WordRelation::Near, ['gate "lower sill"', '5'], 'earlier = gate prox /distance<=5 earlier = "lower sill"'],
    ['text', WordRelation::SameSentence, ['gate sill'], 'text = gate prox /unit=sentence /distance=0 text = sill'],
    ['anywhere', WordRelation::SameParagraph, ['gate sill'], 'gate prox /unit=paragraph /distance=0 sill'],
]);

it('looks for each pair of more than two words that are near each other', function () {
    $node = WordCriterion::of('text', WordRelation::Near, ['gate sill seepage'], Reach::SameStem);
    expect(substr_count(Printer::node($node), 'prox /distance<=10'))->toBe(3)->and(substr_count(Printer::node($node), '/stem'))->toBe(6);
});

it('says what is missing in words', function (WordRelation $relation, array $values, string $fault) {
    expect(fn () => WordCriterion::of('text', $relation, $values))->toThrow(InvalidValue::class, $fault);
})->with([
    [WordRelation::All, [], 'Give a word'],
    [WordRelation::All, ['" - "'], 'Give a word'],
    [WordRelation::Near, ['gate'], 'two to 6'],
    [WordRelation::Near, ['a b c d e f g'], 'two to 6'],
    [WordRelation::Near, ['gate sill', 'five'], 'from 1 to 9999'],
    [WordRelation::Near, ['gate sill', '0'], 'from 1 to 9999'],
]);

it('reads no form out of what no form makes', function (string $cql) {
    expect(AskedFor::from(Parser::parse($cql)->root, vesselSchema()))->toBeNull();
})->with([
    'cql.allRecords = 1',
    'gate and sill',
    'title == gate',
    'vessel = tern',
    'vessel =/stem tern',
    'vessel == tern or gate',
    'gate prox/distance=3 sill',
    'gate prox/ordered sill',
    'gate prox/distance<=5 title = sill',
]);

it('negates the verb', function (string $cql, string $plain, string $negated) {
    $node = Parser::parse($cql)->root;
    expect(Criterion::describe($node, vesselSchema())['relation'])
        ->toBe($plain)
        ->and(Criterion::describe($node, vesselSchema(), true)['relation'])
        ->toBe($negated);
})->with([
    ['gate', 'contains', 'does not contain'],
    ['gate prox sill', 'contains near each other', 'does not contain near each other'],
    ['text any "gate sill"', 'contains any of', 'contains none of'],
    ['vessel == tern', 'is', 'is not'],
    ['vessel <> tern', 'is not', 'is'],
    ['vessel == tern or vessel == gull', 'is one of', 'is none of'],
    ['vessel <> tern and vessel <> gull', 'is none of', 'is one of'],
    ['vessel == "te*"', 'begins with', 'does not begin with'],
    ['vessel == ""', 'is empty', 'is not empty'],
]);

it('lets plain words reach other endings, and leaves phrases and masks as they are written', function () {
    $of = static fn (string $words, bool $any = false): string => Printer::node(
        Criteria::of($words, [], vesselSchema(), $any, Reach::SameStem)->ledger()->tree(),
    );
    expect($of('gate "lower sill" se* -mitre'))
        ->toBe('cql.serverChoice = /stem gate and "lower sill" and se* not cql.serverChoice = /stem mitre')
        ->and($of('gate sill', true))
        ->toBe('cql.serverChoice = /stem gate or cql.serverChoice = /stem sill')
        ->and($of('vessel = tern'))
        ->toBe('vessel = tern');
});

it('says what is left in the query line before a line, and without it', function () {
    $of = Criteria::of('gate "lower sill" -mitre weir', [], vesselSchema(), false, Reach::SameStem);
    expect(array_map($of->wordsBefore(...), [0, 1, 2, 3]))
        // What must not be there is always read last.
        ->toBe(['', 'gate', 'gate "lower sill"', 'gate "lower sill" weir'])
        ->and($of->wordsWithout(1))
        ->toBe('gate weir -mitre');
    $cql = Criteria::of('vessel == tern and gate', [], vesselSchema());
    expect($cql->wordsBefore(1))->toBe('vessel == tern')->and($cql->wordsWithout(0))->toBe('gate');
});

it('asks of one field by several values, all of which it must not have', function () {
    $field = vesselSchema()->fields['vessel'];
    $node = Criterion::of($field, Relation::IsNot, ['tern', 'gull']);
    expect(AskedFor::from($node, vesselSchema())?->values)->toBe(['tern', 'gull'])->and(Criterion::togetherness($node))->toBeNull();
});
