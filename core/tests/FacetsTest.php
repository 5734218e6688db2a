<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetRange;
use Brenvic\Core\Facets\NumberRanges;
use Brenvic\Core\Facets\StandingOut;
use Brenvic\Core\Fields\FieldDefinition;

it('cuts numbers where they part by themselves, and counts every one once', function () {
    mt_srand(21);
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
            expect($range->count)->toBe(count(array_filter($values, static fn (float $v): bool => $v >= (float) $range->from && $v <= (float) $range->to)));
            // No class reaches over the gaps.
            expect((float) $range->from < 10 && (float) $range->to > 499)->toBeFalse();
        }
    }
    expect(NumberRanges::of([slicesOf([])], slicesOf([])->present))->toBe([])->and(NumberRanges::ofNumbers([]))->toBe([]);
    $one = slicesOf([7 => FieldDefinition::numberOrdinal(0.75)]);
    expect(NumberRanges::of([$one], $one->present))->toEqual([new FacetRange('0.75', '0.75', 1)]);
});

it('cuts numbers in slices and in lists alike, of one each and of several', function (int $most) {
    mt_srand(22);
    for ($round = 0; $round < 60; $round++) {
        $numbers = $slots = [];
        for ($document = 1, $count = mt_rand(1, 80); $document <= $count; $document++) {
            $of = array_map(static fn (): int => FieldDefinition::numberOrdinal(mt_rand(-5, 5) * 10 ** mt_rand(-4, 4)), array_fill(0, mt_rand(0, $most), null));
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

it('calls a value outstanding only when chance hardly explains it', function () {
    $much = StandingOut::of(41, 96, 310, 2_300);
    expect(round($much->ratio, 1))->toBe(3.2)->and($much->all)->toBe(310)
        ->and(StandingOut::of(2, 4, 10, 1_000))->toBeNull()
        ->and(StandingOut::of(14, 100, 300, 2_300))->toBeNull()
        ->and(StandingOut::of(5, 100, 600, 2_300))->toBeNull()
        ->and(StandingOut::of(50, 50, 50, 50))->toBeNull();
    // The two-by-two table 110 2442 / 111 29114 of Dunning's paper gives 270.72.
    expect(round(StandingOut::likelihood(110, 110 + 2_442, 110 + 111, 110 + 2_442 + 111 + 29_114), 2))->toBe(270.72);
});
