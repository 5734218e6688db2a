<?php

declare(strict_types=1);

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetOrder;
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
use Brenvic\Core\Index\DocumentSet;
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

/**
 * What a facet lists, counted document by document.
 *
 * @param  array<int, list<string>>  $values  those of each document of the whole
 * @param  list<int>  $set
 * @param  array<string, string>  $labels  of every value there is
 * @param  list<string>  $chosen
 * @param  array<string, int>  $excluded
 * @return list<array{string, int, bool, bool, bool}> value, count, chosen, excluded, whether it stands out
 */
function listedByHand(array $values, array $set, array $labels, FacetRequest $request, array $chosen, array $excluded): array
{
    $count = static fn (string $value, array $of): int => count(
        array_filter($of, static fn (int $document): bool => in_array($value, $values[$document], true)),
    );
    $rows = [];
    foreach ($labels as $value => $label) {
        $here = $count($value, $set);
        $standing = StandingOut::of($here, count($set), $count($value, array_keys($values)), count($values));
        $isWanted = $here > 0 && ($request->search === '' || stripos($label, $request->search) !== false);
        if ($isWanted && ($request->order !== FacetOrder::StandingOut || $standing !== null)) {
            $rows[] = [$value, $here, $standing];
        }
    }
    usort($rows, static fn (array $a, array $b): int => match ($request->order) {
        FacetOrder::Count => $b[1] <=> $a[1],
        // By name is as the vocabulary has them.
        FacetOrder::Name => array_search($a[0], array_keys($labels), true) <=> array_search($b[0], array_keys($labels), true),
        FacetOrder::StandingOut => $b[2]->likelihood <=> $a[2]->likelihood,
    } ?: strcmp($a[0], $b[0]));
    $kept = [...$chosen, ...array_keys($excluded)];
    $rows = array_filter(
        $rows,
        static fn (array $row, int $i): bool => $i < $request->most || in_array($row[0], $kept, true),
        ARRAY_FILTER_USE_BOTH,
    );
    foreach (array_diff($kept, array_column($rows, 0)) as $value) {
        $isCounted = $request->search === '' && $request->order !== FacetOrder::StandingOut;
        $rows[] = [$value, $isCounted ? $count($value, $set) : 0, null];
    }

    return array_map(
        static fn (array $r): array => [
            $r[0], $excluded[$r[0]] ?? $r[1], in_array($r[0], $chosen, true), isset($excluded[$r[0]]),
            $request->order === FacetOrder::StandingOut && $r[2] !== null,
        ],
        array_values($rows),
    );
}

it('lists what a count by hand lists: of part of the whole, in every order, narrowed by words, with what is kept', function () {
    $seed = seeded(24);
    $labels = [];
    for ($i = 1; $i <= 40; $i++) {
        $labels["t{$i}"] = ['Weir ', 'lock ', 'Reach ', 'ÜBER '][$i % 4].($i * 7 % 40);
    }
    $terms = array_map(
        static fn (string $code, string $label): VocabularyTerm => new VocabularyTerm($code, $label),
        array_keys($labels),
        $labels,
    );
    $field = new FieldDefinition('kind', 'Kind', new ChoiceKind, multiple: true, faceted: true, vocabulary: new Vocabulary('kind', $terms));
    $stoodOut = 0;
    for ($round = 0; $round < 12; $round++) {
        $values = [];
        foreach (range(1, mt_rand(30, 300)) as $n) {
            // Of two segments, the first values the likeliest.
            $document = $n + ($n % 3 === 0 ? 70_000 : 0);
            $values[$document] = array_map(
                static fn (): string => 't'.min(40, 1 + (int) floor(-log(mt_rand(1, 1000) / 1000) * 8)),
                array_fill(0, mt_rand(0, 3), null),
            );
            $values[$document] = array_values(array_unique($values[$document]));
        }
        $store = new MemoryStore();
        $writer = new IndexWriter($store);
        $indexed = array_map(
            static fn (int $document, array $of): IndexedDocument => new IndexedDocument($document, [], ['kind' => $of], [], ['kind']),
            array_keys($values),
            $values,
        );
        usort($indexed, static fn (IndexedDocument $a, IndexedDocument $b): int => $a->number <=> $b->number);
        $writer->put($indexed);
        $writer->flush();
        $reader = new IndexReader($store);
        for ($try = 0; $try < 15; $try++) {
            // What is found has much in common now and then, so that something stands out.
            $common = 't'.mt_rand(1, 12);
            $set = array_values(array_filter(
                array_keys($values),
                static fn (int $d): bool => in_array($common, $values[$d], true) ? mt_rand(0, 9) < 9 : mt_rand(0, 9) < $try % 4 * 2,
            ));
            $some = array_map(static fn (): string => 't'.mt_rand(1, 40), array_fill(0, 3, null));
            $chosen = array_values(array_unique(array_slice($some, 0, mt_rand(0, 2))));
            $excluded = in_array($some[2], $chosen, true) || mt_rand(0, 1) === 0 ? [] : [$some[2] => mt_rand(1, 9)];
            $request = new FacetRequest(
                'kind',
                mt_rand(1, 15),
                FacetOrder::cases()[mt_rand(0, 2)],
                mt_rand(0, 2) === 0 ? ['weir', 'LOCK', '1', 'nothing such'][mt_rand(0, 3)] : '',
            );
            $scope = new FacetScope(DocumentSet::of($set), $reader->all(), 'somebody');
            $counts = (new FacetCounter($reader))->count($field, $scope, $request, $chosen, $excluded);
            $listed = array_map(
                static fn (FacetValue $v): array => [$v->value, $v->count, $v->chosen, $v->excluded, $v->standingOut !== null],
                $counts->values,
            );
            $stoodOut += count(array_filter(array_column($listed, 4)));
            expect($listed)
                ->toBe(listedByHand($values, $set, $labels, $request, $chosen, $excluded), "seed {$seed}")
                ->and($counts->distinct)
                ->toBe(count(array_unique(array_merge([], ...array_map(static fn (int $d): array => $values[$d], $set)))));
        }
    }
    expect($stoodOut)->toBeGreaterThan(5);
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
