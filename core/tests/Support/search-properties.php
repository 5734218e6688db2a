<?php

declare(strict_types=1);

namespace Brenvic\Core\Tests\Support;

use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchRequest;
use Closure;

/**
 * Searches on a store, held against looking at every document.
 *
 * @param  Closure(): IndexStore  $store  an empty one
 */
function searchProperties(Closure $store, int $rounds): void
{
    it('lets each asker find just what every rule lets them see', function () use ($store, $rounds) {
        seeded(31);
        for ($round = 0; $round < $rounds; $round++) {
            $collection = new Collection($store());
            $collection->fill(mt_rand(10, 60));
            $searcher = $collection->searcher();
            // Somebody with some libraries, from whom up to two rules keep something; perhaps together with somebody else.
            $somebody = static function () use ($collection): array {
                $libraries = array_values(array_filter(['a', 'b', 'c'], static fn (): bool => mt_rand(0, 2) > 0));
                $rules = array_map(static fn (): array => $collection->criterion(), array_fill(0, mt_rand(0, 2), null));
                $asker = new Asker(
                    $libraries,
                    array_map(static fn (array $rule): Node => Parser::parse($rule[0])->root, $rules),
                    $collection->schema,
                    'one',
                );

                return [
                    $asker,
                    static fn (array $d): bool => in_array($d['library'], $libraries, true) &&
                        array_filter($rules, static fn (array $rule): bool => $rule[1]($d)) === [],
                ];
            };
            for ($q = 0; $q < 6; $q++) {
                [$asker, $sees] = $somebody();
                if (mt_rand(0, 2) === 0) {
                    [$other, $theySee] = $somebody();
                    $asker = new Asker($asker->libraries, $asker->withheld, $asker->rules, $asker->design, $other);
                    $sees = static fn (array $d): bool => $sees($d) && $theySee($d);
                }
                [$cql, $test] = $collection->criterion();
                $answer = $searcher->search(
                    $asker,
                    new SearchRequest(
                        new Ledger([new LedgerLine(Parser::parse($cql)->root)]),
                        [new SortKey('title')],
                        FacetRequest::of(['reach'], 500),
                        0,
                        500,
                    ),
                );
                $visible = array_filter($collection->documents, $sees);
                $found = array_filter($visible, $test);
                expect($answer->visible)->toBe(count($visible))->and($answer->documents)->toEqualCanonicalizing(array_keys($found), $cql);
                // A facet is counted without what was chosen of it.
                foreach (str_contains($cql, 'reach') ? [] : $answer->facets()['reach']->values as $value) {
                    expect($value->count)->toBe(
                        count(array_filter($found, static fn (array $d): bool => in_array($value->value, $collection->lineages($d), true))),
                    );
                }
            }
        }
    });

    it('counts what looking at every document counts', function () use ($store, $rounds) {
        seeded(2024);
        for ($round = 0; $round < 2 * $rounds; $round++) {
            $collection = new Collection($store());
            $collection->fill(mt_rand(0, 60));
            $searcher = $collection->searcher();
            $seen = array_filter($collection->documents, static fn (array $d): bool => $d['library'] !== 'c');
            for ($q = 0; $q < 8; $q++) {
                $lines = $tests = [];
                for ($n = mt_rand(0, 3); $n > 0; $n--) {
                    [$cql, $test] = $collection->criterion();
                    $negated = mt_rand(0, 3) === 0;
                    $lines[] = new LedgerLine(Parser::parse($cql)->root, $negated, mt_rand(0, 4) !== 0);
                    $tests[] = static fn (array $d): bool => $test($d) !== $negated;
                }
                $count = static fn (array $which): int => count(
                    array_filter($seen, static function (array $d) use ($which, $tests): bool {
                        foreach ($which as $i) {
                            if (! $tests[$i]($d)) {
                                return false;
                            }
                        }

                        return true;
                    }),
                );
                $on = array_keys(array_filter($lines, static fn (LedgerLine $line): bool => $line->on));
                $answer = $searcher->search(
                    new Asker(['a', 'b']),
                    new SearchRequest(
                        new Ledger($lines),
                        [SortKey::of('dated', true), new SortKey('title')],
                        FacetRequest::of(['library', 'reach', 'dated'], 500),
                        0,
                        500,
                    ),
                );
                $shown = implode(
                    ' | ',
                    array_map(static fn (LedgerLine $l): string => ($l->on ? '' : 'off ').($l->negated ? 'not ' : '').$l->cql(), $lines),
                );
                expect($answer->total)->toBe($count($on), $shown)->and($answer->visible)->toBe(count($seen));
                foreach ($answer->lines as $i => $line) {
                    expect([$line->alone, $line->running, $line->without])->toBe(
                        [
                            $count([$i]),
                            $count(array_filter($on, static fn (int $o): bool => $o <= $i)),
                            $count(array_filter($on, static fn (int $o): bool => $o !== $i)),
                        ],
                        "line {$i} of {$shown}",
                    );
                }
                $found = array_filter($seen, static function (array $d) use ($on, $tests): bool {
                    foreach ($on as $i) {
                        if (! $tests[$i]($d)) {
                            return false;
                        }
                    }

                    return true;
                });
                expect($answer->documents)->toHaveCount(count($found));
                $dates = array_map(
                    static fn (int $d): int => $found[$d]['dated'] === null ? 0 : PartialDate::parse($found[$d]['dated'])->firstDay(),
                    $answer->documents,
                );
                $sorted = $dates;
                rsort($sorted);
                expect($dates)->toBe($sorted);
                $pages = [];
                for ($at = 0; $at < $answer->total; $at += 7) {
                    $pages = [
                        ...$pages,
                        ...$searcher->search(
                            new Asker(['a', 'b']),
                            new SearchRequest(new Ledger($lines), [SortKey::of('dated', true), new SortKey('title')], [], $at, 7),
                        )->documents,
                    ];
                }
                expect($pages)->toBe($answer->documents);
                if ($answer->total === 0) {
                    $sizes = array_unique(array_map(static fn ($rescue): int => count($rescue->lines), $answer->rescues));
                    expect(count($sizes))->toBeLessThanOrEqual(1);
                    foreach ($answer->rescues as $rescue) {
                        expect($rescue->count)->toBe($count(array_diff($on, $rescue->lines)))->toBeGreaterThan(0);
                    }
                    $singles = array_filter($on, static fn (int $i): bool => $count(array_diff($on, [$i])) > 0);
                    $found1 = array_map(
                        static fn ($rescue): int => $rescue->lines[0],
                        array_filter($answer->rescues, static fn ($rescue): bool => count($rescue->lines) === 1),
                    );
                    expect($found1)->toEqualCanonicalizing($singles);
                }
                $facetsAreOwn = array_filter(
                    $lines,
                    static fn (LedgerLine $l): bool => $l->on && ! $l->negated && preg_match('/^(reach|library) ==/', $l->cql()) === 1,
                );
                if ($facetsAreOwn === []) {
                    $byHand = [];
                    foreach ($found as $d) {
                        foreach ($collection->lineages($d) as $code) {
                            $byHand[$code] = ($byHand[$code] ?? 0) + 1;
                        }
                    }
                    $counted = [];
                    foreach ($answer->facets()['reach']->values as $value) {
                        if ($value->excluded) {
                            unset($byHand[$value->value]);
                        } else {
                            $counted[$value->value] = $value->count;
                        }
                    }
                    ksort($byHand);
                    ksort($counted);
                    expect($counted)->toBe($byHand);
                }
            }
        }
    });
}
