<?php

declare(strict_types=1);

use Brenvic\Core\Copies\KeyBucket;
use Brenvic\Core\Copies\Once;
use Brenvic\Core\Copies\TextPrint;
use Brenvic\Core\Index\DocumentSet;

/** Words of an invented text. */
function wordsOf(int $count, int $of = 400): array
{
    return array_map(static fn (): string => 'w'.mt_rand(1, $of), range(1, $count));
}

/** What is in both of what is in either, by the runs of words as they stand. */
function shareByHand(string $one, string $other): float
{
    $runs = static function (string $text): array {
        $words = explode(' ', $text);

        return array_unique(array_map(static fn (int $i): string => implode(' ', array_slice($words, $i, 4)), range(0, count($words) - 4)));
    };
    [$a, $b] = [$runs($one), $runs($other)];
    $common = count(array_intersect($a, $b));

    return $common / (count($a) + count($b) - $common);
}

it('tells how much two texts have in common, as comparing every run of words does', function () {
    seeded(1903);
    for ($round = 0; $round < 200; $round++) {
        $words = wordsOf(mt_rand(12, 120), mt_rand(3, 300));
        $other = $words;
        for ($change = mt_rand(0, 12); $change > 0; $change--) {
            match (mt_rand(0, 2)) {
                0 => array_splice($other, mt_rand(0, count($other) - 1), 1, ['changed']),
                1 => array_splice($other, mt_rand(0, count($other) - 1), count($other) > 12 ? 1 : 0),
                default => array_splice($other, mt_rand(0, count($other)), 0, ['more', 'of', 'it']),
            };
        }
        [$one, $two] = [implode(' ', $words), implode(' ', $other)];
        $share = TextPrint::of($one)->share(TextPrint::of($two));
        expect($share)->toEqualWithDelta(shareByHand($one, $two), 1e-9)->and(TextPrint::of($two)->share(TextPrint::of($one)))->toBe($share);
    }
});

it('keeps keys with their documents as a list of both does, and says them again', function () {
    seeded(1913);
    $kept = [];
    $stored = '';
    for ($round = 0; $round < 600; $round++) {
        $document = mt_rand(0, 3) === 0 ? mt_rand(1, 40) : mt_rand(1, 4_000_000_000);
        $rests = array_map(static fn (): int => mt_rand(0, 65_535), range(1, mt_rand(0, 3)));
        $kept[$document] = array_values(array_unique(mt_rand(0, 4) === 0 ? [] : $rests));
        $stored = KeyBucket::with($stored, $document, $kept[$document]);
        $byHand = [];
        foreach ($kept as $of => $all) {
            foreach ($all as $rest) {
                $byHand[] = [$of, $rest];
            }
        }
        sort($byHand);
        expect(KeyBucket::entries($stored))->toBe($byHand);
    }
});

it('knows by the family of a text where its keys are kept, and what is of one family has a key in common', function () {
    seeded(1914);
    for ($round = 0; $round < 200; $round++) {
        $words = wordsOf(150, 5_000);
        $one = TextPrint::of(implode(' ', $words));
        $words[mt_rand(0, 149)] = 'changed';
        $other = TextPrint::of(implode(' ', $words));
        foreach ($one->keys() as $at => $key) {
            $family = $one->families()[$at];
            expect(TextPrint::beginning($family))->toBe(KeyBucket::of($key)[0]);
            $family === $other->families()[$at] && expect($other->keys()[$at])->toBe($key);
        }
    }
});

it('finds among many texts those that comparing every pair finds, by the keys they have in common', function () {
    seeded(1904);
    $texts = [];
    for ($i = 0; $i < 40; $i++) {
        $words = wordsOf(150, 5_000);
        $texts[] = implode(' ', $words);
        foreach ([1, 3, 6] as $changes) {
            $near = $words;
            for ($c = 0; $c < $changes; $c++) {
                $near[mt_rand(0, 149)] = "changed{$c}";
            }
            $texts[] = implode(' ', $near);
        }
    }
    $prints = array_map(TextPrint::of(...), $texts);
    $keys = array_map(static fn (TextPrint $print): array => $print->keys(), $prints);
    $near = $found = $far = $wrong = 0;
    foreach ($prints as $i => $one) {
        for ($j = 0; $j < $i; $j++) {
            $isFound = array_intersect($keys[$i], $keys[$j]) !== [];
            $share = $one->share($prints[$j]);
            if ($share >= 0.8) {
                $near++;
                $found += $isFound ? 1 : 0;
            } elseif ($share < 0.05) {
                $far++;
                $wrong += $isFound ? 1 : 0;
            }
        }
    }
    // 0.98 are to be expected at a share of 0.8, and more above it.
    expect($near)->toBeGreaterThan(100)->and($found / $near)->toBeGreaterThan(0.96)->and($far)->toBeGreaterThan(5_000)->and($wrong)->toBe(0);
});

it('is the same however a text is set, and another for other words', function () {
    $text = 'The sill of the upper gate leaks where the second plank was renewed in March, and the keeper has been told.';
    $print = TextPrint::of($text);
    $set = TextPrint::of(mb_strtoupper(str_replace(' ', "\n  ", $text)));
    expect($set->whole)->toBe($print->whole)
        ->and($set->keys())->toBe($print->keys())
        ->and($print->keys())->toHaveCount(TextPrint::BANDS)
        ->and(min($print->keys()))->toBeGreaterThanOrEqual(0)
        ->and(max($print->keys()))->toBeLessThan(2 ** 32)
        ->and(TextPrint::of("{$text} Soon.")->whole)->not->toBe($print->whole);
});

it('does not compare what says too little', function (string $text) {
    expect(TextPrint::of($text)->isComparable())->toBeFalse()->and(TextPrint::of($text)->keys())->toBe([]);
})->with(['', 'Received', 'Received 14 March 2024 by the office', str_repeat('again ', 500)]);

it('puts nearly the same texts into one family, and hardly ever others', function () {
    seeded(1905);
    $met = [];
    for ($i = 0; $i < 600; $i++) {
        $words = wordsOf(200, 5_000);
        $near = $words;
        // Runs of words in a row are changed together, as in a draft.
        for ($c = mt_rand(0, 24); $c > 0; $c--) {
            array_splice($near, mt_rand(0, 199), 2, ['changed', "in{$c}"]);
        }
        [$one, $two] = [TextPrint::of(implode(' ', $words)), TextPrint::of(implode(' ', $near))];
        $common = array_keys(array_intersect_assoc($one->families(), $two->families()));
        // A family leads nowhere that the keys do not.
        foreach ($common as $band) {
            expect($one->keys()[$band])->toBe($two->keys()[$band]);
        }
        $met[(int) floor($one->share($two) * 10)][] = $common !== [];
    }
    $rate = static fn (int $tenth): float => array_sum(array_map(intval(...), $met[$tenth] ?? [])) / max(1, count($met[$tenth] ?? []));
    expect(count($met[9] ?? []))->toBeGreaterThan(20)->and($rate(9))->toBeGreaterThan(0.93)->and($rate(4))->toBeLessThan(0.12);
});

it('counts near copies once, as going through every pair does, whatever else there is', function () {
    seeded(1906);
    for ($round = 0; $round < 12; $round++) {
        $families = $flat = [];
        for ($f = mt_rand(0, 12); $f > 0; $f--) {
            $family = array_unique(array_map(static fn (): int => mt_rand(1, 40) * 4_001, range(1, mt_rand(2, 5))));
            sort($family);
            $families[] = $family;
            array_push($flat, ...$family, ...[0]);
        }
        $set = array_values(array_filter(array_map(static fn (int $n): int => $n * 4_001, range(1, 40)), static fn (): bool => mt_rand(0, 2) > 0));
        $apart = mt_rand(0, 1) === 0 ? [] : array_slice($set, 0, 5);
        $stands = static function (int $later, int $document) use ($families, $set, $apart): bool {
            foreach ($families as $family) {
                $in = array_diff(array_intersect($family, $set), $apart);
                if (in_array($document, $in, true) && $later > $document && $later === max($in)) {
                    return true;
                }
            }

            return false;
        };
        $left = array_values(array_filter($set, static fn (int $one): bool => array_filter($set, static fn (int $later): bool => $stands($later, $one)) === []));
        $once = new Once($flat, 'x', $apart === [] ? null : DocumentSet::of($apart));
        $given = DocumentSet::of($set);
        expect($once->of($given)->documents())->toBe($left);
        $behind = $once->behind($left, $given);
        foreach ($left as $document) {
            $copies = array_values(array_filter($set, static fn (int $one): bool => $stands($document, $one)));
            expect($once->copies($document, $given))->toBe($copies)->and($behind[$document] ?? 0)->toBe(count($copies));
        }
    }
});
