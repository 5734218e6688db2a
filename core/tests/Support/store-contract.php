<?php

declare(strict_types=1);

namespace Brenvic\Core\Tests\Support;

use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Index\Tokenizer;
use Closure;

/**
 * What every store of the index must do.
 *
 * @param  Closure(): IndexStore  $store  an empty one
 */
function storeContract(Closure $store): void
{
    it('numbers the terms of a space from 1 on, each once', function () use ($store) {
        $store = $store();
        expect($store->termCount('a'))
            ->toBe(0)
            ->and($store->addTerms('a', ['lock', 'gate', '12']))
            ->toBe(['lock' => 1, 'gate' => 2, 12 => 3])
            ->and($store->addTerms('a', ['sill']))
            ->toBe(['sill' => 4])
            ->and($store->addTerms('b', ['gate']))
            ->toBe(['gate' => 1])
            ->and($store->termNumbers('a', ['gate', 'none', 'sill', '12']))
            ->toEqualCanonicalizing(['gate' => 2, 'sill' => 4, 12 => 3])
            ->and($store->termNumbers('c', ['gate']))
            ->toBe([])
            ->and($store->termCount('a'))
            ->toBe(4);
    });

    it('gives terms by their numbers', function () use ($store) {
        $store = $store();
        $store->addTerms('a', ['lock', 'gate', '12', 'sill']);
        $store->addTerms('b', ['weir']);
        expect($store->termsNumbered('a', [4, 1, 9, 3]))
            ->toEqualCanonicalizing([1 => 'lock', 3 => '12', 4 => 'sill'])
            ->and($store->termsNumbered('a', []))
            ->toBe([])
            ->and($store->termsNumbered('c', [1]))
            ->toBe([]);
    });

    it('gives the terms that begin with a prefix once folded', function () use ($store) {
        $store = $store();
        $terms = [
            'lock',
            'Locke',
            'LÖCKE',
            'loch',
            'o’Lock',
            'lo',
            '運河',
            '運',
            'mrklt marigold',
            'MRKLT merigold',
            "lock'n",
            'élan',
            'Elan',
            'ᾳ',
            '%lock',
            'lo_k',
        ];
        $store->addTerms('a', $terms);
        foreach (['', 'l', 'lo', 'lock', 'locke', 'ol', '運', 'mrklt ', 'elan', 'é', 'z', '%', 'lo_', "lock'"] as $prefix) {
            $wanted = array_values(array_filter($terms, static fn (string $term): bool => str_starts_with(Tokenizer::fold($term), $prefix)));
            $found = $store->terms('a', $prefix);
            expect($found)->toEqualCanonicalizing($wanted, $prefix);
            foreach ($found as $number => $term) {
                expect($store->termNumbers('a', [$term]))->toBe([$term => $number]);
            }
        }
        $store->forgetTerms('a', [$terms[0]]);
        $left = array_slice($terms, 1);
        sort($left, SORT_STRING);
        foreach (['', 'l', 'lock', 'z', '運', $terms[3]] as $from) {
            $behind = array_values(array_filter($left, static fn (string $term): bool => strcmp($term, $from) >= 0));
            $before = array_reverse(array_values(array_filter($left, static fn (string $term): bool => strcmp($term, $from) < 0)));
            foreach ([1, 3, 100] as $most) {
                expect($store->termsFrom('a', $from, $most))->toBe(array_slice($behind, 0, $most))
                    ->and($store->termsFrom('a', $from, $most, true))->toBe(array_slice($before, 0, $most));
            }
        }
    });

    it('keeps blobs by key and segment, and gives touched segments new stamps', function () use ($store) {
        $store = $store();
        expect($store->stamps())->toBe([])->and($store->blobs('w/t/1'))->toBe([]);
        $all = implode('', array_map(chr(...), range(0, 255)));
        $store->write(['w/t/1' => [0 => $all, 3 => "\0"], 'w/t/12' => [0 => 'x'], 'all' => [0 => 'y']], []);
        $before = $store->stamps();
        expect(array_keys($before))
            ->toBe([0, 3])
            ->and($store->blobs('w/t/1'))
            ->toBe([0 => $all, 3 => "\0"])
            ->and($store->blob('w/t/12', 0))
            ->toBe('x')
            ->and($store->blob('w/t/12', 3))
            ->toBeNull()
            ->and($store->blob('none', 0))
            ->toBeNull()
            ->and($store->many(['all', 'none', 'w/t/12']))
            ->toEqual(['all' => [0 => 'y'], 'none' => [], 'w/t/12' => [0 => 'x']]);
        $store->write(['w/t/1' => [3 => null, 4 => 'z'], 'w/t/12' => [0 => '']], []);
        expect($store->blobs('w/t/1'))
            ->toBe([0 => $all, 4 => 'z'])
            ->and($store->blobs('w/t/12'))
            ->toBe([0 => '']);
        $after = $store->stamps();
        expect(array_keys($after))
            ->toBe([0, 3, 4])
            ->and($after[0])
            ->not->toBe($before[0])
            ->and($after[3])
            ->not->toBe($before[3]);
    });

    it('keeps records by document, and only those that hold some bytes', function () use ($store) {
        $store = $store();
        $store->write([], [1 => "a\0b", 65_537 => 'abc', 7 => "\xFF"]);
        expect($store->records([1, 2, 7, 65_537]))
            ->toEqual([1 => "a\0b", 7 => "\xFF", 65_537 => 'abc'])
            ->and($store->records([1, 7, 65_537], ["\0b", 'bc']))
            ->toEqual([1 => "a\0b", 65_537 => 'abc'])
            ->and($store->records([], []))
            ->toBe([])
            ->and(array_keys($store->stamps()))
            ->toBe([0, 1]);
        $stamp = $store->stamps()[1];
        $store->write([], [65_537 => null, 1 => 'new']);
        expect($store->records([1, 65_537]))
            ->toBe([1 => 'new'])
            ->and($store->stamps()[1])
            ->not->toBe($stamp);
    });

    it('remembers what was made of one state, and makes it anew for the next', function () use ($store) {
        $store = $store();
        $made = 0;
        $make = static function () use (&$made): int {
            return ++$made;
        };
        expect($store->remembered('x', $make))
            ->toBe(1)
            ->and($store->remembered('x', $make))
            ->toBe(1)
            ->and($store->remembered('y', $make))
            ->toBe(2);
        $store->write(['all' => [0 => 'y']], []);
        expect($store->remembered('x', $make))->toBe(3);
    });
}
