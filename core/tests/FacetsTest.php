<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetRange;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Facets\FacetScope;
use Brenvic\Core\Facets\FacetValue;
use Brenvic\Core\Facets\NumberRanges;
use Brenvic\Core\Facets\StandingOut;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;

require_once __DIR__.'/Support/slices.php';

it('cuts numbers where they part by themselves, and counts every one once', function () {
    seeded(21);
    for ($round = 0; $round < 30; $round++) {
        $values = [];
        foreach ([2, 30, 500] as $centre) {
            for ($n = mt_rand(1, 30); $n > 0; $n--) {
                $values[] = $centre + mt_rand(-100, 100) / 100;
            }
        }
        $slices = slicesOf(array_map(FieldDefinition::numberOrdinal(...), $values));
        $ranges = NumberRanges::of([$slices], $slices->present);
        expect(array_sum(array_map(static fn (FacetRange $r): int => $r->count, $ranges)))->toBe(count($values));
        foreach ($ranges as $range) {
            expect($range->count)->toBe(
                count(array_filter($values, static fn (float $v): bool => $v >= (float) $range->from && $v <= (float) $range->to)),
            );
            // No class reaches over the gaps.
            expect((float) $range->from < 10 && (float) $range->to > 499)->toBeFalse();
        }
    }
    expect(NumberRanges::of([slicesOf([])], slicesOf([])->present))->toBe([])->and(NumberRanges::ofNumbers([]))->toBe([]);
    $one = slicesOf([7 => FieldDefinition::numberOrdinal(0.75)]);
    expect(NumberRanges::of([$one], $one->present))->toEqual([new FacetRange('0.75', '0.75', '0.75', 1)]);
});

it('cuts numbers in slices and in lists alike, of one each and of several', function (int $most) {
    seeded(22);
    for ($round = 0; $round < 60; $round++) {
        $numbers = $slots = [];
        for ($document = 1, $count = mt_rand(1, 80); $document <= $count; $document++) {
            $of = array_map(
                static fn (): int => FieldDefinition::numberOrdinal(mt_rand(-5, 5) * 10 ** mt_rand(-4, 4)),
                array_fill(0, mt_rand(0, $most), null),
            );
            sort($of);
            $numbers[] = $of = array_values(array_unique($of));
            foreach ($of as $slot => $number) {
                $slots[$slot][$document] = $number;
            }
        }
        if ($slots !== []) {
            $slices = array_map(slicesOf(...), $slots);
            expect(NumberRanges::ofNumbers($numbers))->toEqual(NumberRanges::of($slices, $slices[0]->present));
        }
    }
})->with([1, 3]);

it('cuts whole numbers by whole numbers, and others by no more places than they have', function (int $places) {
    seeded(23);
    for ($round = 0; $round < 60; $round++) {
        // Some hundred, so that one of other places is not always among those that are looked at.
        $values = array_map(
            static fn (): float => round(mt_rand(-50, 5_000) / 10 ** $places, $places),
            array_fill(0, mt_rand(1, 400), null),
        );
        $numbers = array_map(static fn (float $v): array => [FieldDefinition::numberOrdinal($v)], $values);
        $isOdd = $round % 3 === 0;
        $isOdd && ($numbers[] = [FieldDefinition::numberOrdinal($values[] = 1.2345)]);
        $ranges = NumberRanges::ofNumbers($numbers);
        $reached = -INF;
        foreach ($ranges as $range) {
            expect((float) $range->from)
                ->toBeGreaterThan($reached)
                ->toBeLessThanOrEqual((float) $range->to)
                ->and((float) $range->until)
                ->toBeGreaterThanOrEqual((float) $range->to);
            $reached = (float) $range->to;
            $isOdd ||
                expect(
                    max(
                        array_map(static fn (string $end): int => strlen(substr(strrchr($end, '.') ?: '', 1)), [
                            $range->from,
                            $range->to,
                            $range->until,
                        ]),
                    ),
                )->toBeLessThanOrEqual($places);
        }
        // Every number is in one, and few in none.
        expect(array_sum(array_column($ranges, 'count')))
            ->toBe(count($values))
            ->and((float) $ranges[0]->from)
            ->toBeLessThanOrEqual(min($values))
            ->and($reached)
            ->toBeGreaterThanOrEqual(max($values));
    }
})->with([0, 1, 2]);

it('says ranges as people would', function (array $numbers, array $expected) {
    expect(
        array_map(
            static fn (FacetRange $r): string => "{$r->from} to {$r->until}",
            NumberRanges::ofNumbers(array_map(static fn (float $n): array => [FieldDefinition::numberOrdinal($n)], $numbers)),
        ),
    )->toBe($expected);
})->with([
    'pages' => [[1, 1, 2, 3, 4, 5, 6, 7, 8, 9, 9], ['1 to 2', '3 to 4', '5 to 6', '7 to 8', '9 to 9']],
    'money' => [
        [1_204.5, 8_000, 24_990, 131_000.25, 140_000, 229_000, 561_000],
        ['1000 to 10000', '10000 to 100000', '100000 to 200000', '200000 to 500000', '500000 to 565000'],
    ],
    'one' => [[0.75, 0.75], ['0.75 to 0.75']],
    'below zero' => [[-3, -2.5, -0.1], ['-3 to -2.5', '-2.5 to -2', '-2 to 0']],
]);

it('calls a value outstanding only when chance hardly explains it', function () {
    $much = StandingOut::of(41, 96, 310, 2_300);
    expect(round($much->ratio, 1))
        ->toBe(3.2)
        ->and($much->all)
        ->toBe(310)
        ->and(StandingOut::of(2, 4, 10, 1_000))
        ->toBeNull()
        ->and(StandingOut::of(14, 100, 300, 2_300))
        ->toBeNull()
        ->and(StandingOut::of(5, 100, 600, 2_300))
        ->toBeNull()
        ->and(StandingOut::of(50, 50, 50, 50))
        ->toBeNull();
    // The two-by-two table 110 2442 / 111 29114 of Dunning's paper gives 270.72.
    expect(round(StandingOut::likelihood(110, 110 + 2_442, 110 + 111, 110 + 2_442 + 111 + 29_114), 2))->toBe(270.72);
});

it('lists a large tree as far as it is opened, each value below all that it is below', function () {
    $terms = [new VocabularyTerm('a', 'A'), new VocabularyTerm('b', 'B')];
    for ($i = 0; $i < 300; $i++) {
        $terms[] = new VocabularyTerm("a{$i}", "A {$i}", 'a', alsoBelow: $i === 3 ? ['b'] : []);
        $terms[] = new VocabularyTerm("x{$i}", "X {$i}", "a{$i}");
    }
    $field = new FieldDefinition(
        'reach',
        'Reach',
        new ChoiceKind,
        multiple: true,
        faceted: true,
        vocabulary: new Vocabulary('reach', $terms),
    );
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    $documents = [];
    for ($i = 0; $i < 300; $i++) {
        $documents[] = new IndexedDocument(
            $i + 1,
            [],
            ['reach' => $field->vocabulary->lineage("x{$i}"), 'reach.own' => ["x{$i}"]],
            [],
            ['reach'],
        );
    }
    $writer->put($documents);
    $writer->flush();
    $reader = new IndexReader($store);
    $listed = static function (FacetRequest $request, array $chosen = []) use ($reader, $field): array {
        $counts = (new FacetCounter($reader))->count($field, new FacetScope($reader->all(), $reader->all(), 'all'), $request, $chosen, []);

        return array_column(array_map(static fn (FacetValue $v): array => [$v->value, $v], $counts->values), 1, 0);
    };
    $top = $listed(new FacetRequest('reach'));
    expect(array_map(static fn (FacetValue $v): int => $v->count, $top))
        ->toBe(['a' => 300, 'b' => 1])
        ->and($top['a']->more)
        ->toBeTrue();
    $opened = $listed(new FacetRequest('reach', opened: ['a']));
    expect($opened)
        ->toHaveCount(302)
        ->and($opened['a3']->parents)
        ->toBe(['a', 'b'])
        ->and($opened['a3']->more)
        ->toBeTrue();
    expect(array_keys($listed(new FacetRequest('reach', opened: ['b']))))
        ->toEqualCanonicalizing(['a', 'b', 'a3'])
        // The branch of what was chosen is there whether or not somebody opened it.
        ->and($listed(new FacetRequest('reach'), ['x9']))
        ->toHaveKeys(['a', 'a9', 'x9'])
        ->and(array_keys($listed(new FacetRequest('reach', search: 'x 29'))))
        ->toHaveCount(11);
});
