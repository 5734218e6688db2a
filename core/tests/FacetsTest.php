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
    expect(NumberRanges::of([slicesOf([])], slicesOf([])->present))->toBe([]);
    $one = slicesOf([7 => FieldDefinition::numberOrdinal(0.75)]);
    expect(NumberRanges::of([$one], $one->present))->toEqual([new FacetRange('0.75', '0.75', 1)]);
});

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
