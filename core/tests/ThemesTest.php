<?php

declare(strict_types=1);

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Themes\Feature;
use Brenvic\Core\Themes\FoundThemes;
use Brenvic\Core\Themes\StandingWord;
use Brenvic\Core\Themes\Theme;
use Brenvic\Core\Themes\ThemeFinder;

/** Four subjects with their own words, among words that all have, and a few documents without a text. */
function papersOf(int $count): array
{
    $subjects = [
        'dredging' => ['dredger', 'silt', 'barge', 'sounding', 'bucket'],
        'permits' => ['mooring', 'vessel', 'licence', 'fee', 'berth'],
        'trees' => ['willow', 'felling', 'canopy', 'saplings', 'roots'],
        'board' => ['minutes', 'chairman', 'resolved', 'apologies', 'agenda'],
    ];
    $papers = [];
    for ($i = 0; $i < $count; $i++) {
        $subject = array_rand($subjects);
        $own = (array) array_rand(array_flip($subjects[$subject]), mt_rand(3, 5));
        $all = array_map(static fn (): string => 'common'.chr(97 + mt_rand(0, 25)).chr(97 + mt_rand(0, 25)), range(1, 12));
        $words = [...$own, ...$all, 'the', 'and', (string) mt_rand(1, 99)];
        shuffle($words);
        $papers[] = ['text' => $i % 20 === 19 ? '' : implode(' ', $words), 'subject' => $subject];
    }

    return $papers;
}

/** @return array{IndexReader, SearchSchema, array<string, FieldDefinition>} */
function papersIndexed(array $papers): array
{
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    foreach ($papers as $number => $paper) {
        $values = ['library' => ['a'], 'subject' => [$paper['subject']]];
        $writer->put([new IndexedDocument($number, [Part::Text->value => [$paper['text']]], $values, [], ['subject'])]);
    }
    $writer->flush();
    $terms = array_map(static fn (string $code): VocabularyTerm => new VocabularyTerm($code, ucfirst($code)), ['dredging', 'permits', 'trees', 'board']);
    $field = new FieldDefinition('subject', 'Subject', new ChoiceKind, faceted: true, vocabulary: new Vocabulary('subject', $terms));

    return [new IndexReader($store), new SearchSchema([$field]), ['subject' => $field]];
}

function themesOf(array $papers, ?array $result = null): FoundThemes
{
    [$reader, $schema, $fields] = papersIndexed($papers);

    return (new ThemeFinder($reader, $schema))->of(DocumentSet::of($result ?? array_keys($papers)), DocumentSet::of(array_keys($papers)), $fields);
}

/** What is told, without numbers of the index. */
function themesTold(FoundThemes $found): array
{
    return [
        array_map(static fn (Theme $t): array => [array_map(static fn (Feature $f): string => $f->label(), $t->names), $t->count, Printer::node($t->node)], $found->themes),
        array_map(static fn (StandingWord $w): array => [$w->word, $w->count, $w->standingOut->ratio], $found->words),
        $found->others,
        $found->withoutText,
    ];
}

it('parts a result by its subjects, names each by words of its own, and counts what is without a text apart', function () {
    seeded(1911);
    $papers = papersOf(300);
    $papers = array_combine(range(1, 300), $papers);
    $found = themesOf($papers);
    expect($found->withoutText)->toBe(15)->and($found->documents)->toBe(300)->and(count($found->themes))->toBe(4);
    foreach ($found->themes as $theme) {
        $subjects = [];
        $count = 0;
        foreach ($papers as $paper) {
            $has = array_filter(
                $theme->names,
                static fn (Feature $f): bool => $f->field === null ? in_array($f->of, explode(' ', $paper['text']), true) : $f->of === $paper['subject'],
            );
            if (count($has) >= 2) {
                $count++;
                $subjects[$paper['subject']] = true;
            }
        }
        // Counted as going through every paper does; and all of one subject.
        expect($theme->count)->toBe($count)->and($subjects)->toHaveCount(1);
    }
});

it('says the same on every run, however the documents are numbered', function (int $seed) {
    seeded($seed);
    $papers = papersOf(mt_rand(40, 200));
    $told = themesTold(themesOf(array_combine(range(1, count($papers)), $papers)));
    expect(themesTold(themesOf(array_combine(range(1, count($papers)), $papers))))->toBe($told);
    for ($i = 0; $i < 3; $i++) {
        $mixed = $papers;
        shuffle($mixed);
        $numbers = range(1, 3 * count($papers), 3);
        expect(themesTold(themesOf(array_combine($numbers, $mixed))))->toBe($told);
    }
})->with([1912, 1913, 1914, 1915]);

it('tells of nothing that is not in sight', function () {
    seeded(1916);
    $papers = array_combine(range(1, 200), papersOf(200));
    $seen = array_filter($papers, static fn (array $paper): bool => $paper['subject'] !== 'board');
    [$reader, $schema, $fields] = papersIndexed($papers);
    $sight = DocumentSet::of(array_keys($seen));
    expect(themesTold((new ThemeFinder($reader, $schema))->of($sight, $sight, $fields)))->toBe(themesTold(themesOf($seen)));
});

it('names the words that stand out, with what they are in the whole', function () {
    seeded(1917);
    $papers = array_combine(range(1, 400), papersOf(400));
    $result = array_keys(array_filter($papers, static fn (array $p): bool => $p['subject'] === 'trees' || mt_rand(0, 30) === 0));
    $found = themesOf($papers, $result);
    $words = array_map(static fn (StandingWord $w): string => $w->word, $found->words);
    expect(array_slice($words, 0, 5))->toEqualCanonicalizing(['willow', 'felling', 'canopy', 'saplings', 'roots']);
    $of = $found->words[0];
    $has = static fn (array $some): int => count(array_filter($some, static fn (array $p): bool => in_array($of->word, explode(' ', $p['text']), true)));
    $texts = static fn (array $some): int => count(array_filter($some, static fn (array $p): bool => $p['text'] !== ''));
    $in = array_intersect_key($papers, array_flip($result));
    expect($of->count)
        ->toBe($has($in))
        ->and($of->standingOut->all)
        ->toBe($has($papers))
        ->and($of->standingOut->ratio)
        ->toEqualWithDelta($has($in) / $texts($in) / ($has($papers) / $texts($papers)), 1e-9);
});

it('says nothing of a result that has nothing to say', function (array $texts) {
    $papers = [];
    foreach ($texts as $i => $text) {
        $papers[$i + 1] = ['text' => $text, 'subject' => 'trees'];
    }
    $found = themesOf($papers);
    expect($found->themes)->toBe([])->and($found->words)->toBe([]);
})->with([[[]], [['']], [['one word']], [['the same words', 'the same words', 'the same words', 'the same words']]]);
