<?php

declare(strict_types=1);

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\DateRangeKind;
use Brenvic\Core\Fields\Kinds\LongTextKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;

/** @return array<string, FieldDefinition> */
function entryFields(): array
{
    $reach = new Vocabulary('reach', [
        new VocabularyTerm('n', 'North'),
        new VocabularyTerm('n1', 'North basin', 'n', synonyms: ['Top basin']),
    ]);

    return array_column(
        [
            new FieldDefinition('reach', 'Reach', new ChoiceKind, faceted: true, vocabulary: $reach),
            new FieldDefinition('holder', 'Holder', new PersonKind, sensitive: true),
            new FieldDefinition('dated', 'Dated', new DateKind, faceted: true),
            new FieldDefinition('works', 'Works', new DateRangeKind),
            new FieldDefinition('depth', 'Depth', new NumberKind),
            new FieldDefinition('remarks', 'Remarks', new LongTextKind),
        ],
        null,
        'code',
    );
}

it('puts words where they stand, and sensitive ones only under their own field', function () {
    $values = ['reach' => ['n1'], 'holder' => ['Osric Vane'], 'remarks' => ['Silt over the sill']];
    $indexed = DocumentEntries::of(
        new FiledDocument(7, 'Survey', 'The gate', 'a', $values, 'survey.pdf', 'D-00007-X', 'old/survey.pdf'),
        entryFields(),
    );
    expect($indexed->number)
        ->toBe(7)
        ->and($indexed->parts[Part::Names->value])
        ->toBe(['Survey', 'survey.pdf', 'D-00007-X'])
        ->and($indexed->parts[Part::Text->value])
        ->toBe(['The gate'])
        ->and($indexed->parts[Part::Paths->value])
        ->toBe(['old/survey.pdf'])
        ->and($indexed->parts[Part::ofField('reach')])
        ->toBe(['North basin', 'Top basin'])
        ->and($indexed->parts[Part::ofField('holder')])
        ->toBe(['Osric Vane'])
        ->and($indexed->parts[Part::Values->value])
        ->toContain('North basin', 'Silt over the sill')
        ->not->toContain('Osric Vane');
});

it('gives a value of a tree with what is above it, and keeps which one it was', function () {
    $indexed = DocumentEntries::of(new FiledDocument(1, 'x', values: ['reach' => ['n1']]), entryFields());
    expect($indexed->values['reach'])
        ->toEqualCanonicalizing(['n', 'n1'])
        ->and($indexed->values['reach.own'])
        ->toBe(['n1'])
        ->and($indexed->faceted)
        ->toContain('reach', 'library')
        ->not->toContain('holder');
});

it('places dates and numbers on their lines, a date of less than a day by all of it', function () {
    $values = ['dated' => ['2024-03'], 'works' => ['2024-01-05/2025-02-01'], 'depth' => ['2.05']];
    $fields = entryFields();
    $indexed = DocumentEntries::of(new FiledDocument(1, 'x', values: $values, pages: 12, filedOn: '2025-03-01'), $fields);
    expect($indexed->ordinals['dated'])
        ->toBe([$fields['dated']->ordinal('2024-03')])
        ->and($indexed->values['dated'])
        ->toBe(['2024', '2024-03'])
        ->and($indexed->values['dated.own'])
        ->toBe(['2024-03'])
        ->and($indexed->values['works'])
        ->toBe(['2024', '2025'])
        ->and($indexed->ordinals['depth'])
        ->toBe([FieldDefinition::numberOrdinal(2.05)])
        ->and($indexed->ordinals['pages'])
        ->toBe([FieldDefinition::numberOrdinal(12)])
        ->and($indexed->ordinals)
        ->toHaveKey('created')
        ->and($indexed->values)
        ->not->toHaveKey('depth');
});

it('keeps the original of what was redacted, with earlier versions, from those who may see the copy', function () {
    $whole = DocumentEntries::of(new FiledDocument(1, 'x', 'Osric Vane came', earlier: ['Osric came']), []);
    $redacted = DocumentEntries::of(new FiledDocument(1, 'x', 'Osric Vane came', redacted: 'came', earlier: ['Osric came']), []);
    expect($whole->parts[Part::Earlier->value])
        ->toBe(['Osric came'])
        ->and($whole->parts[Part::Original->value])
        ->toBe([])
        ->and($redacted->parts[Part::Text->value])
        ->toBe(['came'])
        ->and($redacted->parts[Part::Earlier->value])
        ->toBe([])
        ->and($redacted->parts[Part::Original->value])
        ->toBe(['Osric Vane came', 'Osric came']);
});

it('finds a document by its dossiers, and counts each kind of them once', function () {
    $dossiers = [['DS-00001-A', 'The gate', 'stoppage'], ['DS-00002-B', 'The weir', 'stoppage']];
    $indexed = DocumentEntries::of(new FiledDocument(1, 'x', dossiers: $dossiers), []);
    expect($indexed->values['dossier'])
        ->toBe(['DS-00001-A', 'DS-00002-B'])
        ->and($indexed->values['dossier_kind'])
        ->toBe(['stoppage'])
        ->and($indexed->parts[Part::ofField('dossier')])
        ->toBe(['DS-00001-A The gate', 'DS-00002-B The weir']);
});

it('leaves out values of fields that the design has no more', function () {
    $indexed = DocumentEntries::of(new FiledDocument(1, 'x', values: ['gone' => ['y']]), entryFields());
    expect($indexed->values)->not->toHaveKey('gone')->and($indexed->parts)->not->toHaveKey(Part::ofField('gone'));
});
