<?php

declare(strict_types=1);

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\LongTextKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Answer\Evaluator;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Completion;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;

/** @return array{IndexReader, SearchSchema} a few documents with vessels, holders and reaches */
function harbour(): array
{
    $reach = new Vocabulary('reach', [new VocabularyTerm('n', 'North pound'), new VocabularyTerm('s', 'Summit pound')]);
    $fields = array_column(
        [
            new FieldDefinition('vessel', 'Vessel', new TextKind, faceted: true),
            new FieldDefinition('vessel_owner', 'Owner of the vessel', new PersonKind),
            new FieldDefinition('holder', 'Holder', new PersonKind, sensitive: true),
            new FieldDefinition('reach', 'Reach', new ChoiceKind, faceted: true, vocabulary: $reach),
            new FieldDefinition('remarks', 'Remarks', new LongTextKind),
            new FieldDefinition('depth', 'Depth', new NumberKind),
        ],
        null,
        'code',
    );
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $documents = [];
    foreach (['Marigold', 'Marigold', 'Marigold II', 'Quay "Maid"', 'Éclair', 'Mary Ann'] as $i => $vessel) {
        $values = ['vessel' => [$vessel], 'holder' => ['Mavis Holt'], 'reach' => [$i % 2 === 0 ? 'n' : 's'], 'depth' => ['3'], 'remarks' => ['Mast']];
        $documents[] = DocumentEntries::of(new FiledDocument($i + 1, 'Permit', values: $values), $fields);
    }
    $writer->put($documents);
    $writer->flush();

    return [new IndexReader($store), new SearchSchema($fields)];
}

/** @return array{from: int, fields: list<string>, values: list<string>} */
function completed(string $typed, ?DocumentSet $sight = null): array
{
    [$reader, $schema] = harbour();
    $found = (new Completion($reader, $schema, $sight ?? $reader->all()))->of($typed);

    return [
        'from' => $found['from'],
        'fields' => array_map(static fn (FieldDefinition $f): string => $f->code, $found['fields']),
        'values' => array_map(static fn (array $v): string => "{$v['field']->code}: {$v['label']} {$v['count']}", $found['values']),
    ];
}

it('offers the values that begin with what is typed, in a word of them too, the most frequent first', function () {
    expect(completed('mar'))
        ->toBe(['from' => 0, 'fields' => [], 'values' => ['vessel: Marigold 2', 'vessel: Marigold II 1', 'vessel: Mary Ann 1']])
        ->and(completed('gate mar')['from'])
        ->toBe(5)
        ->and(completed('pou')['values'])
        ->toBe(['reach: North pound 3', 'reach: Summit pound 3'])
        ->and(completed('ECL')['values'])
        ->toBe(['vessel: Éclair 1'])
        ->and(completed('"mar')['values'])
        ->toHaveCount(3);
});

it('offers fields by their names and codes', function () {
    expect(completed('ves')['fields'])
        ->toBe(['vessel', 'vessel_owner'])
        ->and(completed('own')['fields'])
        ->toBe(['vessel_owner'])
        ->and(completed('v'))
        ->toBe(['from' => 0, 'fields' => [], 'values' => []]);
});

it('offers values of the field that stands before, from where it stands', function () {
    expect(completed('gate vessel = mari'))
        ->toBe(['from' => 5, 'fields' => [], 'values' => ['vessel: Marigold 2', 'vessel: Marigold II 1']])
        ->and(completed('vessel == "mary a'))
        ->toBe(['from' => 0, 'fields' => [], 'values' => ['vessel: Mary Ann 1']])
        ->and(completed('reach = ')['values'])
        ->toHaveCount(2)
        ->and(completed('nothing = mari')['values'])
        ->toBe(['vessel: Marigold 2', 'vessel: Marigold II 1']);
});

it('tells nothing of sensitive values, of long texts and numbers, or of documents out of sight', function () {
    expect(completed('mav')['values'])
        ->toBe([])
        ->and(completed('holder = mav')['values'])
        ->toBe([])
        ->and(completed('mast')['values'])
        ->toBe([])
        ->and(completed('depth = 3')['values'])
        ->toBe([])
        ->and(completed('mar', DocumentSet::of([2, 4]))['values'])
        ->toBe(['vessel: Marigold 1'])
        ->and(completed('mar', DocumentSet::none())['values'])
        ->toBe([]);
});

it('gives with each value the criterion that finds as many documents as it says', function () {
    [$reader, $schema] = harbour();
    $evaluator = new Evaluator($reader, $schema, $reader->all());
    foreach (['mar', 'qua', 'ecl', 'pou'] as $typed) {
        foreach ((new Completion($reader, $schema, $reader->all()))->of($typed)['values'] as $value) {
            expect($evaluator->evaluate(Parser::parse($value['cql'])->root)->count())->toBe($value['count'], $value['cql']);
        }
    }
});
