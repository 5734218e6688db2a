<?php

declare(strict_types=1);

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Search\Order\Ranker;
use Brenvic\Core\Search\Words\RankedNearness;
use Brenvic\Core\Search\Words\RankedTerm;

/** The parts that are ranked by here, and whether somebody chose what stands there. */
const RANKED = [Part::Text->value => false, Part::Names->value => true];

/**
 * BM25F as it is written in the paper, one document and one word after the other, in the steps that the index keeps.
 *
 * @param  array<int, array<string, list<string>>>  $documents  words by number and part
 * @param  list<list<string>>  $asked  each asked word with its variants
 * @param  list<int>  $visible
 * @return array<int, int>
 */
function scoresByHand(array $documents, array $asked, array $visible): array
{
    $scores = array_fill_keys($visible, 0);
    foreach ($asked as $variants) {
        $with = array_sum(array_map(
            static fn (string $variant): int => count(array_filter(
                $visible,
                static fn (int $n): bool => in_array($variant, array_merge(...array_values($documents[$n])), true),
            )),
            $variants,
        ));
        $with = min(count($visible), $with);
        $rarity = max(1, (int) round(2 * log(1 + (count($visible) - $with + 0.5) / ($with + 0.5))));
        foreach ($visible as $number) {
            $all = $chosen = 0;
            foreach (RANKED as $part => $isChosen) {
                $words = $documents[$number][$part];
                foreach ($variants as $variant) {
                    // Of many variants only whether one stands there counts, as a word that stands once.
                    $times = count(array_keys($words, $variant, true));
                    $times = count($variants) > 16 ? min(1, $times) : $times;
                    if ($times > 0) {
                        $norm = 1 - 0.4 + 0.4 * count($words) / Part::usualLength($part);
                        $often = Part::weightOf($part) * $times / $norm;
                        $impact = max(1, min(15, (int) ceil(15 * $often / ($often + 1.2))));
                        $all |= $impact;
                        $chosen |= $isChosen ? $impact : 0;
                    }
                }
            }
            $scores[$number] += $rarity * (2 * $all + $chosen);
        }
    }

    return $scores;
}

/**
 * @param  list<list<string>>  $asked
 */
function rankerOf(IndexReader $reader, DocumentSet $visible, array $asked, array $nearness = []): Ranker
{
    $parts = array_keys(RANKED);

    return new Ranker(
        $reader,
        $visible,
        array_map(
            static fn (array $variants): RankedTerm => new RankedTerm(
                $parts,
                $reader->countWords($parts, array_values($reader->wordNumbers($variants)), $visible),
            ),
            $asked,
        ),
        $nearness,
    );
}

it('ranks as the formula does by hand, one document after the other', function (int $seed) {
    seeded($seed);
    $vocabulary = ['gate', 'gates', 'sill', 'lock', 'weir', ...array_map(static fn (int $i): string => "pound{$i}", range(1, 20))];
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $documents = [];
    for ($number = 1; $number <= 120; $number++) {
        $draw = static fn (int $most): array => array_map(
            // Some words are common, most are rare.
            static fn (): string => $vocabulary[min(mt_rand(0, count($vocabulary) - 1), mt_rand(0, count($vocabulary) - 1))],
            range(1, mt_rand(1, $most)),
        );
        $documents[$number] = [Part::Text->value => $draw(mt_rand(0, 3) === 0 ? 400 : 30), Part::Names->value => $draw(6)];
        $writer->put([
            new IndexedDocument(
                $number,
                array_map(static fn (array $words): array => [implode(' ', $words)], $documents[$number]),
                ['library' => [$number % 3 === 0 ? 'b' : 'a']],
                [],
                [],
            ),
        ]);
    }
    $writer->flush();
    $reader = new IndexReader($store);
    $everything = $reader->all();
    $pounds = array_slice($vocabulary, 5);
    foreach ([[['gate', 'gates'], ['sill']], [['lock'], ['weir'], ['gate']], [$pounds, ['sill']], [['weir', 'lock', 'sill']], [$pounds]] as $asked) {
        $documentsSeen = $everything->documents();
        $ranker = rankerOf($reader, $everything, $asked);
        $byHand = scoresByHand($documents, $asked, $documentsSeen);
        expect($ranker->ranks())->toBeTrue()->and($ranker->scoresOf($documentsSeen))->toBe($byHand);
        $slices = $ranker->scores($everything);
        foreach ($byHand as $number => $score) {
            expect($slices->value($number))->toBe($score);
        }
        // Only some of them asked for: the same numbers.
        $some = array_slice($documentsSeen, 7, 11);
        expect($ranker->scoresOf($some))->toBe(array_intersect_key($byHand, array_flip($some)));
    }
})->with([1, 2, 3]);

it('adds for words that stand together in the order asked what the commoner of them can add at most', function () {
    $texts = [1 => 'the gate sill leaks', 2 => 'the sill of the gate', 3 => 'a gate sill and a sill gate', 4 => 'lock', 5 => 'gate', 6 => 'gate'];
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    foreach ($texts as $number => $text) {
        $parts = [Part::Text->value => [$text], Part::Names->value => ['log']];
        $writer->put([new IndexedDocument($number, $parts, ['library' => ['a']], [], [])]);
    }
    $writer->flush();
    $reader = new IndexReader($store);
    $ranker = rankerOf($reader, $reader->all(), [['gate'], ['sill']]);
    // “gate” stands in 5 of 6, “sill” in 3: the commoner one is worth max(1, round(2 · ln(1 + 1.5/5.5))) = 1 step.
    expect($ranker->looksCloser())->toBeTrue()->and($ranker->closer(range(1, 6)))->toBe([1 => 30, 3 => 30]);
    expect(rankerOf($reader, $reader->all(), [['sill'], ['gate']])->closer([2, 3]))->toBe([3 => 30]);
    expect(rankerOf($reader, $reader->all(), [['gate']])->looksCloser())->toBeFalse();
    // A word that stands nowhere makes no pair.
    expect(rankerOf($reader, $reader->all(), [['gate'], ['nowhere']])->looksCloser())->toBeFalse();
});

it('puts how near words are before everything else that ranks', function () {
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    foreach ([1 => 'gate', 2 => 'gate gate gate sill', 3 => 'sill gate'] as $number => $text) {
        $parts = [Part::Text->value => [$text], Part::Names->value => [$number === 2 ? 'gate sill' : 'log']];
        $writer->put([new IndexedDocument($number, $parts, ['library' => ['a']], [], [])]);
    }
    $writer->flush();
    $reader = new IndexReader($store);
    $all = $reader->all();
    $bare = rankerOf($reader, $all, [['gate'], ['sill']])->scoresOf([1, 2, 3]);
    $nearness = new RankedNearness([1 => 2, 3 => 1]);
    $near = rankerOf($reader, $all, [['gate'], ['sill']], [$nearness]);
    $scores = $near->scoresOf([1, 2, 3]);
    expect($bare[2])->toBeGreaterThan($bare[3])->and($scores[2])->toBe($bare[2]);
    // One step is worth more than all words together can be, wherever they stand.
    $step = ($scores[3] - $bare[3]) / $nearness->steps[3];
    expect($step)->toBeGreaterThan(max($bare))->and($scores[1] - $bare[1])->toBe($step * $nearness->steps[1])
        ->and($nearness->steps[3])->toBeGreaterThan($nearness->steps[1])->and($near->looksCloser())->toBeFalse();
    foreach ([1, 2, 3] as $number) {
        expect($near->scores($all)->value($number))->toBe($scores[$number]);
    }
});

it('sums one by one while that is quicker, by how many lists there are', function () {
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $writer->put([new IndexedDocument(1, [Part::Text->value => ['gate gates sill'], Part::Names->value => ['log']], ['library' => ['a']], [], [])]);
    $writer->flush();
    $reader = new IndexReader($store);
    $one = rankerOf($reader, $reader->all(), [['gate']]);
    $three = rankerOf($reader, $reader->all(), [['gate', 'gates'], ['sill']]);
    // Two parts each.
    expect([$one->fewEnough(8_000), $one->fewEnough(8_001), $three->fewEnough(24_000), $three->fewEnough(24_001)])->toBe([true, false, true, false]);
    expect(rankerOf($reader, $reader->all(), [['gate', 'gates'], ['sill'], ['log']])->fewEnough(25_001))->toBeFalse();
});
